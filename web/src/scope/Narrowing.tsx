import { useQuery } from "@tanstack/react-query";
import { ask, sentenceOf, type Schemas } from "../api/client";
import { Choice, Choices, ChoicesHead } from "../parts/Picker";
import { t } from "../words/words";
import { writeScope, EVERYTHING, type Scope } from "./scope";

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
    <Choices label={t("scope.narrow")}>
      <Choice
        words={t("scope.parts.asked")}
        more={t("scope.parts.askedN", { n: asked })}
        chosen={scope.asked}
        first
        onChoose={() => narrow({ asked: !scope.asked })}
      />
      {(["blocker", "any", "scene"] as const).map((check) => (
        <Choice
          key={check}
          words={t(`scope.check.${check}`)}
          chosen={scope.check === check}
          onChoose={() => narrow({ check })}
        />
      ))}
      {(["unused", "used"] as const).map((use) => (
        <Choice
          key={use}
          words={t(`scope.code.${use}`)}
          chosen={scope.code === use}
          onChoose={() => narrow({ code: scope.code === use ? "" : use })}
        />
      ))}
      <ChoicesHead words={t("scope.parts.since")} />
      {SPANS.map(([words, days]) => (
        <Choice key={words} words={t(words)} chosen={false} onChoose={() => narrow({ since: daysAgo(days) })} />
      ))}
      {sections.length > 0 && <ChoicesHead words={t("scope.parts.section")} />}
      {sections.map((one) => (
        <Choice
          key={`section ${one.name}`}
          words={one.name}
          more={t("scope.entries", { n: one.entries })}
          chosen={scope.section === one.name}
          onChoose={() => narrow({ section: one.name })}
        />
      ))}
      {tags.length > 0 && <ChoicesHead words={t("scope.parts.tag")} />}
      {tags.map((one) => (
        <Choice
          key={`tag ${one.name}`}
          words={one.name}
          more={t("scope.entries", { n: one.entries })}
          chosen={scope.tag === one.name}
          onChoose={() => narrow({ tag: one.name })}
        />
      ))}
      <ChoicesHead words={t("scope.parts.person")} />
      {people.map((one) => (
        <Choice
          key={one.id}
          words={one.name}
          chosen={scope.person === one.id}
          onChoose={() => narrow({ person: one.id })}
        />
      ))}
    </Choices>
  );
}

/** An instant to the minute, so that the address stays short to read. */
function daysAgo(days: number): string {
  return new Date(Math.floor(Date.now() / 60_000) * 60_000 - days * DAY_MS).toISOString();
}
