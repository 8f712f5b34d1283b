import { Button, TextField } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Choice, Choices, Picker } from "../../parts/Picker";
import type { Person } from "../../session/useSession";
import { languageName, t } from "../../words/words";

interface Props {
  /** The chosen table's name; none for one to be made. */
  tableName: string | undefined;
  options: { table?: string; newTable?: string };
  tables: Schemas["TableReply"][];
  me: Person;
  onChoose: (change: { table?: string; newTable?: string; source?: string }) => void;
}

/** Where files go: a table of the ledger, or one to be made. */
export function IntoPicker({ tableName, options, tables, me, onChoose }: Props) {
  const [name, setName] = useState(options.newTable ?? "");
  const words = tableName
    ? t("set.editionOf", { table: tableName })
    : t("set.newTable", { table: options.newTable ?? "" });
  return (
    <Picker label={t("reading.into")} words={words}>
      {(close) => (
        <>
          {me.coordinator && (
            <form
              className="newname"
              onSubmit={(event) => {
                event.preventDefault();
                onChoose({ table: undefined, newTable: name });
                close();
              }}
            >
              <TextField
                size="small"
                label={t("reading.newName")}
                value={name}
                autoFocus
                onChange={(event) => setName(event.target.value)}
              />
              <Button type="submit" disabled={name.trim() === ""}>
                {t("set.makeIt")}
              </Button>
            </form>
          )}
          <Choices label={t("reading.into")}>
            {tables.map((table) => (
              <Choice
                key={table.slug}
                words={table.name}
                more={t("set.tableOf", { n: table.entries, language: languageName(table.source) })}
                chosen={table.slug === options.table}
                onChoose={() => {
                  onChoose({ table: table.slug, newTable: undefined, source: table.source.tag });
                  close();
                }}
              />
            ))}
          </Choices>
        </>
      )}
    </Picker>
  );
}
