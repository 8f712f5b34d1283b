# Shared by the launcher and the scripts: what the machine must have, and building what changed.

app=build/app
archive=$app/mellow.jsa
stamp=build/stamp
node_version=20.19.5

say() { printf '%s\n' "$*"; }
die() { printf '%s\n' "$*" >&2; exit 1; }

# have PACKAGE -> whether the programs of a Debian package that we need are here
have() {
  case $1 in
    openjdk-17-jdk-headless) command -v javac >/dev/null && javac -version 2>&1 | grep -qE ' (1[7-9]|[2-9][0-9])' ;;
    maven) command -v mvn >/dev/null ;;
    nodejs) command -v node >/dev/null ;;
    npm) command -v npm >/dev/null ;;
    postgresql) compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null ;;
    chromium) [ -x /usr/bin/chromium ] ;;
    chromium-driver) [ -x /usr/bin/chromedriver ] ;;
    libreoffice-calc-nogui) [ -x /usr/bin/soffice ] ;;
    patch) command -v patch >/dev/null ;;
    # Any compiler of C will do; this one is small.
    tcc) command -v cc >/dev/null || command -v tcc >/dev/null ;;
    libbrotli1) compgen -G '/usr/lib/*/libbrotlienc.so.1' >/dev/null ;;
    libharfbuzz-subset0) compgen -G '/usr/lib/*/libharfbuzz-subset.so.0' >/dev/null ;;
    fontconfig) command -v fc-match >/dev/null ;;
    fonts-ipafont-gothic) compgen -G '/usr/share/fonts/opentype/ipafont-gothic/*' >/dev/null ;;
    ca-certificates) [ -e /etc/ssl/certs/ca-certificates.crt ] ;;
    *) die "No test for the package $1." ;;
  esac
}

# need PACKAGE... -> installs those that are missing, or says the command to type
need() {
  local missing=() package
  for package in "$@"; do have "$package" || missing+=("$package"); done
  [ ${#missing[@]} -eq 0 ] && return
  [ "$(id -u)" -eq 0 ] || die "Missing: ${missing[*]}. Type: sudo apt-get install -y --no-install-recommends ${missing[*]}"
  say "Installing ${missing[*]} …"
  mkdir -p build
  { apt-get update -q && DEBIAN_FRONTEND=noninteractive apt-get install -q -y --no-install-recommends "${missing[@]}"; } >build/apt.log 2>&1 \
    || die "Installing ${missing[*]} failed; build/apt.log says why."
  for package in "${missing[@]}"; do
    have "$package" || die "The package $package was installed, but what is needed of it is not here or too old."
  done
}

# use_jdk N -> everything after it runs on Java N, of the machine or of Debian where it has one
use_jdk() {
  local home
  home=$(jdk_home "$1")
  if [ -z "$home" ] && [ "$(id -u)" -eq 0 ]; then
    say "Installing openjdk-$1-jdk-headless …"
    mkdir -p build
    { apt-get update -q && DEBIAN_FRONTEND=noninteractive apt-get install -q -y --no-install-recommends "openjdk-$1-jdk-headless"; } >build/apt.log 2>&1 || true
    home=$(jdk_home "$1")
  fi
  [ -n "$home" ] || die "There is no JDK $1 in /usr/lib/jvm; install one there."
  export JAVA_HOME=$home PATH=$home/bin:$PATH
}

jdk_home() {
  local release
  for release in /usr/lib/jvm/*/release; do
    if grep -qE "^JAVA_VERSION=\"$1[.\"]" "$release" 2>/dev/null && [ -x "${release%/release}/bin/javac" ]; then
      printf '%s' "${release%/release}"
      return
    fi
  done
}

node_is_new() { [ "$(node -p 'parseInt(process.versions.node)')" -ge 20 ]; }

# Node 20 is newer than Debian 12's: its program comes as a plain package from npm, kept under build/.
need_node() {
  need ca-certificates nodejs npm
  export PATH="$PWD/build/node/bin:$PATH"
  node_is_new && return
  local arch; case $(uname -m) in x86_64) arch=x64 ;; aarch64) arch=arm64 ;; *) die "Node 20 or newer is needed; there is no package of it for $(uname -m)." ;; esac
  say "Fetching Node $node_version …"
  mkdir -p build/node
  (cd build/node && npm pack --silent "node-linux-$arch@$node_version" && tar -xzf ./*.tgz --strip-components=1 && rm ./*.tgz) >build/node.log 2>&1 \
    || die "Fetching Node $node_version failed; build/node.log says why."
  hash -r
  node_is_new || die "Node 20 or newer is needed, and $(command -v node) is $(node --version)."
}

file_jars() { printf '%s:' $app/lib/mellow-core-*.jar $app/lib/icu4j-*.jar $app/lib/picocli-*.jar; printf '%s' $app/mellow-server-0.1.0-app.jar; }

web_packages() {
  mkdir -p build
  if [ ! -e web/node_modules/.package-lock.json ] || [ web/package-lock.json -nt web/node_modules/.package-lock.json ]; then
    say "Fetching the web client's packages …"
    (cd web && npm ci --no-audit --no-fund --loglevel=error) >build/npm.log 2>&1 || die "Fetching the web client's packages failed; build/npm.log says why."
  fi
}

sources() { printf '%s\n' pom.xml core/pom.xml server/pom.xml web/package-lock.json web/index.html web/vite.config.ts core/src/main server/src/main web/src web/public demo; }

changed() { [ ! -e $stamp ] || [ ! -e $app/lib ] || [ -n "$(sources | xargs -I{} find {} -newer $stamp -type f -print -quit)" ]; }

build() {
  need openjdk-17-jdk-headless maven
  need_node
  web_packages
  local begun; begun=$(mktemp build/begun.XXXX)
  say "Building the web client …"
  (cd web && npm run --silent build) >build/web.log 2>&1 || { tail -n 30 build/web.log >&2; die "The web client does not build; build/web.log says why."; }
  say "Building the server …"
  mvn -q -B -pl core,server package -Dmaven.test.skip=true -Dspotless.check.skip=true >build/server.log 2>&1 || { grep -m 20 ERROR build/server.log >&2; die "The server does not build; build/server.log says why."; }
  rm -rf $app
  java -Djarmode=tools -jar server/target/mellow-server-0.1.0-app.jar extract --destination $app >build/extract.log 2>&1 || die "Unpacking the server failed; build/extract.log says why."
  mv "$begun" $stamp
}
