import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";
import { goesOn } from "../../api/run";

export type Intake = Schemas["IntakeReply"];
export type Options = Schemas["IntakeOptions"];
export type Preview = Schemas["PreviewReply"];
export type Group = Schemas["Group"];
export type Line = Schemas["Line"];
export type Choice = Line["choice"];
type Compared = Schemas["ComparedReply"];

/** The largest file the server takes, so that a larger one is refused before it travels. */
export const LARGEST_FILE = 200 * 1024 * 1024;

const POLL_MS = 400;
const PAGE = 100;

/** The newest intakes. */
export function useIntakes() {
  return useQuery({
    queryKey: ["intakes"],
    queryFn: ({ signal }) => ask<Schemas["Listed"][]>("/api/intakes", { signal }),
  });
}

/** What one open intake would do; asked for again while it is being found out. */
function useCompared(id: number, decided: string, enabled: boolean) {
  return useQuery({
    queryKey: ["intake", id, "preview", decided],
    queryFn: ({ signal }) => ask<Compared>(`/api/intakes/${id}/preview?fresh=true`, { signal }),
    enabled,
    staleTime: 0,
    refetchInterval: (query) => (goesOn(query.state.data?.run) ? POLL_MS : false),
  });
}

/** What decides how files compare; what was chosen about their changes does not. */
function whatDecides(intake: Intake | undefined): string {
  const files = intake?.set?.files.map(({ path, language, source, leftOut, facts }) => [
    path,
    language,
    source,
    leftOut,
    facts?.format,
    facts?.charset,
  ]);
  return JSON.stringify({ ...intake?.options, choices: undefined, files });
}

/** Whether it can be found out what an intake would do: nothing has to be corrected first. */
export function canCompare(intake: Intake): boolean {
  const known = intake.reading ?? intake.set;
  return intake.status === "open" && known !== undefined && !known.blocked && !goesOn(intake.run);
}

/** One intake with its preview, and what can be done with it. While it is being applied, it is asked for again and again. */
export function useIntake(id: number) {
  const queries = useQueryClient();
  const key = ["intake", id];
  const path = `/api/intakes/${id}`;
  const intake = useQuery({
    queryKey: key,
    queryFn: ({ signal }) => ask<Intake>(path, { signal }),
    refetchInterval: (query) => (goesOn(query.state.data?.run) ? POLL_MS : false),
  });
  const going = goesOn(intake.data?.run);
  const ready = intake.data !== undefined && canCompare(intake.data);
  const compared = useCompared(id, whatDecides(intake.data), ready && !going);
  const keep = (reply: Intake) => queries.setQueryData(key, reply);
  const decide = useMutation({
    mutationFn: (options: Options) => ask<Intake>(`${path}/options`, { method: "PUT", json: options }),
    onSuccess: keep,
  });
  const decideSet = useMutation({
    // Leaving a field by clicking another decides twice; the second waits for the first.
    scope: { id: `intake ${id}` },
    mutationFn: (choice: Schemas["SetChoice"]) => ask<Intake>(`${path}/set`, { method: "PUT", json: choice }),
    onSuccess: keep,
  });
  const choose = useMutation({
    mutationFn: (choice: Schemas["ChoiceRequest"]) =>
      ask<Compared>(`${path}/choices`, { method: "PUT", json: { ...choice, compared: compared.data?.compared } }),
    // Somebody else's choice may have given the lines other numbers.
    onError: () => queries.invalidateQueries({ queryKey: [...key] }),
    onSuccess: (reply) => {
      // Where the choice changes what else the file would do, that is being found out, and asked for until it is known.
      queries.setQueryData<Compared>([...key, "preview", whatDecides(intake.data)], reply);
      return queries.invalidateQueries({ queryKey: [...key, "lines"] });
    },
  });
  const apply = useMutation({
    mutationFn: () => ask<Intake>(`${path}/apply`, { method: "POST" }),
    onSuccess: (reply) => {
      keep(reply);
      void queries.invalidateQueries({ queryKey: ["intakes"] });
    },
  });
  const cancel = useMutation({ mutationFn: () => ask<Intake>(`${path}/cancel`, { method: "POST" }), onSuccess: keep });
  const undo = useMutation({
    mutationFn: (all: boolean) => ask<Intake>(`${path}/undo?all=${all}`, { method: "POST" }),
    onSuccess: (reply) => {
      keep(reply);
      void queries.invalidateQueries({ queryKey: ["intakes"] });
    },
  });
  const leave = useMutation({
    mutationFn: () => ask<undefined>(path, { method: "DELETE" }),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["intakes"] }),
  });
  return { intake, compared, decide, decideSet, choose, apply, cancel, undo, leave, going, ready };
}

/** A page of a group's lines. */
export function useLines(id: number, kind: Group["kind"], find: string, page: number, enabled: boolean) {
  return useQuery({
    queryKey: ["intake", id, "lines", kind, find, page],
    queryFn: ({ signal }) =>
      ask<Schemas["Page"]>(
        `/api/intakes/${id}/lines?${new URLSearchParams({ kind, find, from: String(page * PAGE), size: String(PAGE) })}`,
        { signal },
      ),
    enabled,
    placeholderData: keepPreviousData,
  });
}

/** Lines of a page of {@link useLines}. */
export const LINES_PER_PAGE = PAGE;
