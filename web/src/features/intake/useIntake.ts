import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";

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
export function useCompared(id: number, options: Options | undefined, enabled: boolean) {
  return useQuery({
    queryKey: ["intake", id, "preview", readingOf(options)],
    queryFn: ({ signal }) => ask<Compared>(`/api/intakes/${id}/preview?fresh=true`, { signal }),
    enabled,
    staleTime: 0,
    refetchInterval: (query) => (query.state.data?.run?.status === "going" ? POLL_MS : false),
  });
}

/** What decides how a file compares; what was chosen about its changes does not. */
function readingOf(options: Options | undefined): string {
  return JSON.stringify({ ...options, choices: undefined });
}

/** One intake with its preview, and what can be done with it. While it is being applied, it is asked for again and again. */
export function useIntake(id: number) {
  const queries = useQueryClient();
  const key = ["intake", id];
  const path = `/api/intakes/${id}`;
  const intake = useQuery({
    queryKey: key,
    queryFn: ({ signal }) => ask<Intake>(path, { signal }),
    refetchInterval: (query) => (query.state.data?.run?.status === "going" ? POLL_MS : false),
  });
  const going = intake.data?.run?.status === "going";
  const ready = intake.data?.status === "open" && intake.data.reading !== undefined && !intake.data.reading.blocked;
  const compared = useCompared(id, intake.data?.options, ready && !going);
  const keep = (reply: Intake) => queries.setQueryData(key, reply);
  const decide = useMutation({
    mutationFn: (options: Options) => ask<Intake>(`${path}/options`, { method: "PUT", json: options }),
    onSuccess: keep,
  });
  const choose = useMutation({
    mutationFn: (choice: Schemas["ChoiceRequest"]) => ask<Preview>(`${path}/choices`, { method: "PUT", json: choice }),
    onSuccess: (preview) => {
      queries.setQueryData<Compared>([...key, "preview", readingOf(intake.data?.options)], (was) => ({
        ...was,
        preview,
      }));
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
  return { intake, compared, decide, choose, apply, cancel, undo, leave, going, ready };
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
