import { Alert, Button, Checkbox } from "@mui/material";
import type { Schemas } from "../../api/client";
import { nameOfTag, t, type WordKey } from "../../words/words";
import { Choice, Choices, Picker } from "../../parts/Picker";
import { useFocusBack } from "../../parts/useFocusBack";
import { Words } from "../../words/Words";
import type { Person } from "../../session/useSession";
import { IntoPicker } from "./IntoPicker";
import { SetFiles } from "./SetFiles";
import { choiceOf, sourceTags, withSource, type FileChoice, type SetChoice } from "./sets";
import type { Intake, Options } from "./useIntake";
import "../../parts/listed.css";

interface Props {
  intake: Intake;
  tables: Schemas["TableReply"][];
  me: Person;
  busy: boolean;
  onDecide: (choice: SetChoice) => void;
}

const ARRIVALS = ["SETTLED", "OFFERED", "PENCILLED"] as const;

/** Many files that are one table: one sentence that says what becomes of them, and a row for each file. */
export function SetStep({ intake, tables, me, busy, onDecide }: Props) {
  const back = useFocusBack(busy);
  const set = intake.set;
  if (!set) return null;
  const options = intake.options;
  const taken = set.files.filter((file) => !file.leftOut);
  const languages = new Set(taken.flatMap((file) => file.language ?? []));
  languages.delete(options.source ?? "en");
  const choose = (change: Partial<Options>) => onDecide({ options: { ...options, ...change }, files: [] });
  const decideFile = (file: FileChoice) => {
    // The language of the file of the sources is that of the table, unless it is a catalogue with both.
    const before = set.files.find((one) => one.path === file.path);
    const follows = file.source && !file.leftOut && (!before?.source || before.language === options.source);
    const source = follows && file.language && !options.table ? file.language : options.source;
    onDecide({ options: { ...options, source }, files: [file] });
  };
  const settles = me.coordinator || Object.values(me.levels).includes("reviewer");
  const waiting = taken.filter((file) => file.facts?.blocked);
  const source = options.source ?? "en";
  return (
    <div className="setstep" aria-busy={busy} {...back}>
      <p className="sentence">
        <Words
          of="set.sentence"
          slots={{
            files: <b>{t("set.files", { n: taken.length })}</b>,
            into: (
              <IntoPicker tableName={intake.tableName} options={options} tables={tables} me={me} onChoose={choose} />
            ),
            source: options.table ? (
              <b>{nameOfTag(source)}</b>
            ) : (
              <Picker label={t("set.source")} words={nameOfTag(source)}>
                {(close) => (
                  <Choices label={t("set.source")}>
                    {sourceTags(set.files).map((tag) => (
                      <Choice
                        key={tag}
                        words={nameOfTag(tag)}
                        more={set.files.find((file) => file.language === tag)?.path}
                        chosen={tag === source}
                        first={tag === source}
                        onChoose={() => {
                          onDecide(withSource(options, set.files, tag));
                          close();
                        }}
                      />
                    ))}
                  </Choices>
                )}
              </Picker>
            ),
            languages: <b>{t("set.languages", { n: languages.size })}</b>,
            arrival: (
              <Picker label={t("reading.arrival")} words={t(`set.as.${options.arrival ?? "OFFERED"}`)}>
                {(close) => (
                  <Choices label={t("reading.arrival")}>
                    {ARRIVALS.filter((arrival) => settles || arrival !== "SETTLED").map((arrival) => (
                      <Choice
                        key={arrival}
                        words={t(`set.as.${arrival}`)}
                        chosen={arrival === options.arrival}
                        first={arrival === options.arrival}
                        onChoose={() => {
                          choose({ arrival });
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
      <p className="soft">{t(`set.why.${set.evidence as "BASE"}`, { language: nameOfTag(source) })}</p>
      {!options.table && (
        <label className="owncheck">
          <Checkbox
            size="small"
            checked={options.settlesOwn}
            disabled={busy}
            onChange={(event) => choose({ settlesOwn: event.target.checked })}
          />
          {t("reading.settlesOwn")}
        </label>
      )}
      {waiting.length > 0 ? (
        <Alert
          severity="warning"
          action={
            waiting.length < taken.length && (
              <Button
                color="inherit"
                size="small"
                disabled={busy}
                onClick={() =>
                  onDecide({ options, files: waiting.map((file) => ({ ...choiceOf(file), leftOut: true })) })
                }
              >
                {t("set.goOnWithout", { n: waiting.length })}
              </Button>
            )
          }
        >
          {waiting.length === 1 ? waiting[0]?.facts?.blocked : t("set.cannotGo", { n: waiting.length })}
        </Alert>
      ) : (
        set.blocked && <Alert severity="error">{set.blocked}</Alert>
      )}
      <SetFiles intake={intake} busy={busy} onFile={decideFile} />
    </div>
  );
}

/** What became of the files of a set, once it was taken in. */
export function SetReport({ intake }: { intake: Intake }) {
  const set = intake.set;
  if (!set) return null;
  const came = intake.report?.languages ?? {};
  const total = set.files.filter((file) => !file.leftOut).length;
  return (
    <div className="setstep">
      <p className="sentence">{t("set.came", { n: total, table: intake.tableName ?? "" })}</p>
      <table className="listed setfiles">
        <thead>
          <tr>
            {(["language", "file", "cameIn"] as const).map((key) => (
              <th key={key} scope="col">
                {t(`set.${key}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {set.files.map((file) => (
            <tr key={file.path} className={file.leftOut ? "out" : undefined}>
              <th scope="row">{file.language ? nameOfTag(file.language) : t("set.several")}</th>
              <td className="path">{file.path}</td>
              <td>{file.leftOut ? t("set.leftOut") : cameWords(file, came)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function cameWords(file: Schemas["FileReply"], came: Record<string, Schemas["Came"]>): string {
  const one = came[file.language ?? ""];
  if (file.source && !one) return t("set.theSources");
  if (!one) return t("set.nothingNew");
  const sums: [WordKey, number][] = [
    ["set.sum.settled", one.settled],
    ["set.sum.offered", one.offered],
    ["set.sum.pencilled", one.pencilled],
    ["set.sum.kept", one.kept],
  ];
  return sums
    .filter(([, n]) => n > 0)
    .map(([key, n]) => t(key, { n }))
    .join(" · ");
}
