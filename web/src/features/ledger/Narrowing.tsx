import { List, ListItemButton, ListItemText, ListSubheader } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import { writeScope, EVERYTHING, type Scope } from "../../scope/scope";

const DAY_MS = 24 * 60 * 60 * 1000;
const SPANS = [
  ["scope.parts.day", 1],
  ["scope.parts.week", 7],
  ["scope.parts.month", 30],
] as const;

/** What a scope's tables can be narrowed to. */
export function useParts(scope: Scope, enabled = true) {
  const query = writeScope({ ...EVERYTHING, tables: scope.tables, product: scope.product });
  return useQuery({
    queryKey: ["parts", query],
    queryFn: ({ signal }) => ask<Schemas["PartsReply"]>(`/api/scope/parts?${query}`, { signal }),
    staleTime: 10_000,
    enabled,
  });
}

interface Props {
  scope: Scope;
  onScope: (scope: Scope) => void;
  onClose: () => void;
}

/** The narrower conditions of the scope: open questions, sections, tags, people, time. */
export function Narrowing({ scope, onScope, onClose }: Props) {
  const parts = useParts(scope);
  const narrow = (part: Partial<Scope>) => {
    onScope({ ...scope, ...part });
    onClose();
  };
  if (parts.isError) return <p className="pickersaid">{sentenceOf(parts.error)}</p>;
  if (!parts.data) return <p className="pickersaid">{t("scope.parts.loading")}</p>;
  const { sections, tags, people, asked } = parts.data;
  return (
    <List dense>
      <ListItemButton autoFocus selected={scope.asked} onClick={() => narrow({ asked: !scope.asked })}>
        <ListItemText primary={t("scope.parts.asked")} secondary={t("scope.parts.askedN", { n: asked })} />
      </ListItemButton>
      {(["blocker", "any"] as const).map((check) => (
        <ListItemButton key={check} selected={scope.check === check} onClick={() => narrow({ check })}>
          <ListItemText primary={t(`scope.check.${check}`)} />
        </ListItemButton>
      ))}
      <ListSubheader disableSticky>{t("scope.parts.since")}</ListSubheader>
      {SPANS.map(([words, days]) => (
        <ListItemButton key={words} onClick={() => narrow({ since: daysAgo(days) })}>
          <ListItemText primary={t(words)} />
        </ListItemButton>
      ))}
      {sections.length > 0 && <ListSubheader disableSticky>{t("scope.parts.section")}</ListSubheader>}
      {sections.map((one) => (
        <ListItemButton
          key={`section ${one.name}`}
          selected={scope.section === one.name}
          onClick={() => narrow({ section: one.name })}
        >
          <ListItemText primary={one.name} secondary={t("scope.entries", { n: one.entries })} />
        </ListItemButton>
      ))}
      {tags.length > 0 && <ListSubheader disableSticky>{t("scope.parts.tag")}</ListSubheader>}
      {tags.map((one) => (
        <ListItemButton
          key={`tag ${one.name}`}
          selected={scope.tag === one.name}
          onClick={() => narrow({ tag: one.name })}
        >
          <ListItemText primary={one.name} secondary={t("scope.entries", { n: one.entries })} />
        </ListItemButton>
      ))}
      <ListSubheader disableSticky>{t("scope.parts.person")}</ListSubheader>
      {people.map((one) => (
        <ListItemButton key={one.id} selected={scope.person === one.id} onClick={() => narrow({ person: one.id })}>
          <ListItemText primary={one.name} />
        </ListItemButton>
      ))}
    </List>
  );
}

/** An instant to the minute, so that the address stays short to read. */
function daysAgo(days: number): string {
  return new Date(Math.floor(Date.now() / 60_000) * 60_000 - days * DAY_MS).toISOString();
}
