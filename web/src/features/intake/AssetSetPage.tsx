import { Alert, Button, CircularProgress } from "@mui/material";
import { Link, useNavigate, useParams } from "react-router";
import { sentenceOf } from "../../api/client";
import { goesOn } from "../../api/run";
import { Frame } from "../../desk/Frame";
import { Choice, Choices, Picker } from "../../parts/Picker";
import { useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { Words } from "../../words/Words";
import { count, nameOfTag, t } from "../../words/words";
import { AssetFiles } from "./AssetFiles";
import { AssetPatterns } from "./AssetPatterns";
import { IntoPicker } from "./IntoPicker";
import { useAssetSet, type AssetSet, type Decision } from "./useAssetSet";
import "./intake.css";
import "../../parts/listed.css";

const ARRIVALS = ["SETTLED", "OFFERED", "PENCILLED"] as const;
const LISTED = 6;

/** Pictures and sounds that came together: what their names say, corrected, before it is seen what they would do. */
export function AssetSetPage({ me }: { me: Person }) {
  const id = Number(useParams().id);
  const { set, decide, compare } = useAssetSet(id);
  const navigate = useNavigate();
  const data = set.data;
  const looking = goesOn(data?.run);
  const failed = data?.run && ["failed", "lost", "cancelled"].includes(data.run.status);
  const wrong = decide.error ?? compare.error;
  return (
    <Frame title={<h1 className="scopeline">{t("assets.title")}</h1>}>
      {set.error && !data && (
        <div className="empty">
          <Alert severity="error">{sentenceOf(set.error)}</Alert>
        </div>
      )}
      {!data && !set.error && (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      )}
      {data && (
        <div className="intakes">
          {wrong && <Alert severity="error">{sentenceOf(wrong)}</Alert>}
          {failed && <Alert severity="error">{data.run?.message}</Alert>}
          {looking ? (
            <p className="soft" role="status">
              <CircularProgress size={14} aria-hidden />{" "}
              {data.run && data.run.total > 0
                ? t("assets.looking", { n: data.run.done, of: data.run.total })
                : t("assets.lookingAll")}
            </p>
          ) : data.taken ? (
            <Taken set={data} />
          ) : (
            <Naming
              me={me}
              set={data}
              busy={decide.isPending}
              going={compare.isPending}
              onDecide={(change) => decide.mutate(change)}
              onSee={() => compare.mutate(undefined, { onSuccess: ({ intake }) => void navigate(`/intake/${intake}`) })}
            />
          )}
        </div>
      )}
    </Frame>
  );
}

/** What became of them, for whoever comes back by an old link. */
function Taken({ set }: { set: AssetSet }) {
  const into = set.options.table;
  return (
    <p className="sentence">
      {t("assets.taken")}{" "}
      <Button component={Link} to={`/intake/${set.intake}`} size="small">
        {t("assets.seeTaken")}
      </Button>
      {into && (
        <Button component={Link} to={`/ledger?table=${encodeURIComponent(into)}`} size="small">
          {t("assets.seeTable", { table: set.tableName ?? into })}
        </Button>
      )}
    </p>
  );
}

interface Props {
  me: Person;
  set: AssetSet;
  busy: boolean;
  going: boolean;
  onDecide: (decision: Decision) => void;
  onSee: () => void;
}

function Naming({ me, set, busy, going, onDecide, onSee }: Props) {
  const tables = useTables();
  const options = set.options;
  const settles = me.coordinator || Object.values(me.levels).includes("reviewer");
  const taken = set.files.filter((file) => !file.leftOut).length;
  return (
    <div className="setstep assetset" aria-busy={busy}>
      <p className="sentence">
        <Words
          of="assets.sentence"
          slots={{
            files: <b>{t("assets.files", { n: taken })}</b>,
            into: (
              <IntoPicker
                key={options.newTable}
                tableName={set.tableName}
                options={options}
                tables={tables.data ?? []}
                me={me}
                // What the names look like depends on the languages of the table.
                onChoose={(change) =>
                  onDecide({
                    options: (now, { proposed }) => ({
                      ...change,
                      source: change.source ?? now.source,
                      patterns: proposed.join() === now.patterns.join() ? [] : now.patterns,
                    }),
                  })
                }
              />
            ),
            arrival: (
              <Picker label={t("reading.arrival")} words={t(`set.as.${options.arrival}`)}>
                {(close) => (
                  <Choices label={t("reading.arrival")}>
                    {ARRIVALS.filter((arrival) => settles || arrival !== "SETTLED").map((arrival) => (
                      <Choice
                        key={arrival}
                        words={t(`set.as.${arrival}`)}
                        chosen={arrival === options.arrival}
                        first={arrival === options.arrival}
                        onChoose={() => {
                          onDecide({ options: () => ({ arrival }) });
                          close();
                        }}
                      />
                    ))}
                  </Choices>
                )}
              </Picker>
            ),
          }}
        />
      </p>
      <AssetPatterns
        set={set}
        busy={busy}
        onPatterns={(change) => onDecide({ options: ({ patterns }) => ({ patterns: change(patterns) }) })}
      />
      {set.entries > 0 && <Languages set={set} onSource={(source) => onDecide({ options: () => ({ source }) })} />}
      <div className="seeing">
        <Button variant="contained" disabled={going || set.blocked !== undefined} onClick={onSee}>
          {t("assets.see")}
        </Button>
        {set.blocked && <span className="wrong">{set.blocked}</span>}
      </div>
      <AssetFiles set={set} busy={busy} onFiles={(files) => onDecide({ files })} />
    </div>
  );
}

/** How much there is of each language, and what lacks. */
function Languages({ set, onSource }: { set: AssetSet; onSource: (tag: string) => void }) {
  const source = set.options.source;
  return (
    <table className="listed setfiles shortlist" aria-label={t("assets.languages")}>
      <thead>
        <tr>
          <th scope="col">{t("set.language")}</th>
          <th scope="col">{t("assets.languages")}</th>
          <th scope="col">{t("assets.missing")}</th>
        </tr>
      </thead>
      <tbody>
        {set.languages.map((one) => {
          const missing = set.entries - one.there;
          return (
            <tr key={one.language}>
              <th scope="row">
                {nameOfTag(one.language)}
                {one.language === source ? (
                  <span className="soft"> · {t("set.theSources")}</span>
                ) : (
                  !set.options.table && (
                    <Button size="small" onClick={() => onSource(one.language)}>
                      {t("assets.makeSource")}
                    </Button>
                  )
                )}
              </th>
              <td>{t("assets.there", { n: count(one.there), of: count(set.entries) })}</td>
              <td className={missing > 0 ? "lacking" : "soft"}>
                {missing === 0
                  ? t("assets.nothingMissing")
                  : [
                      ...one.missing.slice(0, LISTED),
                      ...(missing > LISTED ? [t("assets.more", { n: count(missing - LISTED) })] : []),
                    ].join(" · ")}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
