import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { day, listed, nameOfTag, t, when } from "../../words/words";
import { Contributions } from "../contributions";
import { StandingRules } from "../contributions";
import { languagesOf } from "../../scope/scopeTables";
import { ledgerAt } from "../../scope/scope";
import { useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { Confirm } from "../../parts/Confirm";
import { PersonDialog } from "./PersonDialog";
import { TokensDialog } from "./TokensDialog";
import "../../parts/pages.css";
import "../../parts/listed.css";

type Row = Schemas["PersonRow"];

function hereOf(person: Row): string {
  if (!person.active) return t("people.ended");
  if (person.invitedUntil) return t("people.invited", { day: day(person.invitedUntil) });
  return person.seenAt ? when(person.seenAt) : t("people.never");
}

/** Who belongs to the ledger and what they may do, per language. */
export function PeoplePage({ me }: { me: Person }) {
  const queries = useQueryClient();
  const people = useQuery({
    queryKey: ["people"],
    queryFn: ({ signal }) => ask<Row[]>("/api/people", { signal }),
  });
  const [editing, setEditing] = useState<Row | "new" | null>(null);
  const [ending, setEnding] = useState<Row | null>(null);
  const [invitation, setInvitation] = useState<{ name: string; link: string; until: string } | null>(null);
  const [tokens, setTokens] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const tables = useTables();
  const seesFigures = me.coordinator || Object.values(me.levels).includes("reviewer");
  const known = languagesOf(tables.data ?? []);
  const nameOf = (tag: string) => nameOfTag(tag, known);
  const again = () => queries.invalidateQueries({ queryKey: ["people"] });
  const run = (work: Promise<unknown>) => {
    setWrong(null);
    work.then(again).catch((failure: unknown) => setWrong(sentenceOf(failure)));
  };
  const show = (name: string, made: Schemas["Invitation"]) =>
    setInvitation({ name, link: `${window.location.origin}/invitation/${made.token}`, until: made.until });
  return (
    <Frame title={t("people.title")}>
      <div className="settings">
        {people.isError && <Alert severity="error">{sentenceOf(people.error)}</Alert>}
        {wrong && (
          <Alert severity="error" onClose={() => setWrong(null)}>
            {wrong}
          </Alert>
        )}
        {me.coordinator && (
          <div className="firsts">
            <Button variant="contained" onClick={() => setEditing("new")}>
              {t("people.add")}
            </Button>{" "}
            <Button variant="outlined" onClick={() => setTokens(true)}>
              {t("tokens.title")}
            </Button>
            {tokens && <TokensDialog onClose={() => setTokens(false)} />}
          </div>
        )}
        {people.data && (
          <table className="listed">
            <thead>
              <tr>
                <th scope="col">{t("people.name")}</th>
                {me.coordinator && <th scope="col">{t("people.signIn")}</th>}
                <th scope="col">{t("people.rights")}</th>
                {me.coordinator && <th scope="col">{t("people.seen")}</th>}
                <td />
              </tr>
            </thead>
            <tbody>
              {people.data.map((person) => (
                <tr key={person.id} className={person.active ? undefined : "ended"}>
                  <th scope="row">
                    <Link
                      to={
                        seesFigures || person.id === me.id
                          ? `/people/${person.id}`
                          : ledgerAt({ languages: known.map((kept) => kept.language.tag), person: person.id })
                      }
                    >
                      {person.name}
                    </Link>{" "}
                    {person.id === me.id && <span className="soft">· {t("people.you")}</span>}
                  </th>
                  {me.coordinator && <td className="mono">{person.signIn}</td>}
                  <td>
                    <span className="rights">{rightsOf(person, nameOf)}</span>
                  </td>
                  {me.coordinator && <td>{hereOf(person)}</td>}
                  <td className="order">
                    {me.coordinator && person.active && (
                      <>
                        <Button
                          size="small"
                          aria-label={t("people.changeOf", { name: person.name })}
                          onClick={() => setEditing(person)}
                        >
                          {t("people.change")}
                        </Button>
                        <Button
                          size="small"
                          aria-label={t("people.linkOf", { name: person.name })}
                          onClick={() =>
                            run(
                              ask<Schemas["Invitation"]>(`/api/people/${person.id}/invitation`, {
                                method: "POST",
                              }).then((made) => show(person.name, made)),
                            )
                          }
                        >
                          {t("people.link")}
                        </Button>
                        <Button
                          size="small"
                          color="error"
                          aria-label={t("people.endOf", { name: person.name })}
                          onClick={() => setEnding(person)}
                        >
                          {t("people.end")}
                        </Button>
                      </>
                    )}
                    {me.coordinator && !person.active && (
                      <Button
                        size="small"
                        onClick={() => run(ask(`/api/people/${person.id}/resume`, { method: "POST" }))}
                      >
                        {t("people.resume")}
                      </Button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <Contributions me={me} languages={known} />
        {me.coordinator && <StandingRules languages={known} />}
      </div>
      {editing && (
        <PersonDialog
          person={editing === "new" ? null : editing}
          onDone={(name, made) => {
            setEditing(null);
            void again();
            if (made) show(name, made);
          }}
          onClose={() => setEditing(null)}
        />
      )}
      {ending && (
        <Confirm
          title={t("people.endTitle", { name: ending.name })}
          words={t("people.endWords")}
          action={t("people.end")}
          onYes={() => {
            run(ask(`/api/people/${ending.id}/end`, { method: "POST" }));
            setEnding(null);
          }}
          onNo={() => setEnding(null)}
        />
      )}
      {invitation && (
        <Dialog open onClose={() => setInvitation(null)} fullWidth maxWidth="sm" aria-labelledby="invite-title">
          <DialogTitle id="invite-title">{t("people.invitationFor", { name: invitation.name })}</DialogTitle>
          <DialogContent>
            <p>{t("people.invitationWords", { day: day(invitation.until) })}</p>
            <code className="invite-link">{invitation.link}</code>
          </DialogContent>
          <DialogActions>
            <Button onClick={() => void navigator.clipboard.writeText(invitation.link)}>{t("people.copy")}</Button>
            <Button variant="contained" onClick={() => setInvitation(null)}>
              {t("close")}
            </Button>
          </DialogActions>
        </Dialog>
      )}
    </Frame>
  );
}

function rightsOf(person: Row, nameOf: (tag: string) => string): string {
  if (person.coordinator) return t("people.coordinator");
  const byLevel = (["reviewer", "contributor", "reader"] as const).map((level) => {
    const tags = Object.entries(person.levels)
      .filter(([, has]) => has === level)
      .map(([tag]) => nameOf(tag));
    return tags.length ? t(`people.${level}`, { languages: listed(tags) }) : "";
  });
  return byLevel.filter((part) => part !== "").join("; ") || t("people.nothing");
}
