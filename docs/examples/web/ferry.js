// A page that draws its texts with bundles.js. Ways to open it:
//   index.html                    the language chosen last here, or the browser's
//   index.html?language=ar        somebody's choice: a tag, or the number that a product has for a language
//   index.html#preview=TOKEN      what is only offered too, as it changes; the part after # is sent to nobody
import { Bundles } from "./bundles.js";

const asked = new URLSearchParams(location.search);
const token = new URLSearchParams(location.hash.slice(1)).get("preview") ?? "";
const texts = new Bundles({
  server: asked.get("server") ?? "", // this page's own, unless another is named
  product: asked.get("product") ?? "deckside",
  token,
  preview: token !== "",
});
const chooser = document.querySelector("#languages");
let tickets = 1;

function draw() {
  document.documentElement.lang = texts.language;
  document.documentElement.dir = texts.shown?.direction ?? "ltr";
  for (const place of document.querySelectorAll("[data-say]")) {
    place.textContent = texts.say(place.dataset.say, JSON.parse(place.dataset.places ?? "{}"));
    place.classList.toggle("offered", texts.isOffered(place.dataset.say));
  }
  document.querySelector("#tickets").textContent = texts.say("tickets.count", { n: tickets });
  document.querySelector("#missing").textContent = [...texts.missing].join(", ") || "nothing";
  document.querySelector("#state").textContent = texts.offline ? "The server is away; these texts were kept." : "";
  chooser.replaceChildren(
    ...texts.languages.map((one) => {
      const option = new Option(one.name, one.tag, false, one.tag === texts.language);
      option.lang = one.tag;
      return option;
    }),
  );
}

const failed = (why) => {
  document.querySelector("#state").textContent = why.message;
};
chooser.addEventListener("change", () => texts.choose(chooser.value).catch(failed));
for (const [id, step] of [
  ["fewer", -1],
  ["more", 1],
]) {
  document.querySelector(`#${id}`).addEventListener("click", () => {
    tickets = Math.max(0, tickets + step);
    draw();
  });
}
texts.addEventListener("change", draw);
texts.begin(asked.get("language") ?? undefined).catch(failed);
