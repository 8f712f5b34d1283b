import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";

export type Intake = Schemas["IntakeReply"];
export type Options = Schemas["IntakeOptions"];
export type Preview = Schemas["PreviewReply"];

/** The largest file the server takes, so that a larger one is refused before it travels. */
export const LARGEST_FILE = 200 * 1024 * 1024;

const POLL_MS = 400;

/** Uploads a file; the new intake. */
export function upload(file: File): Promise<Intake> {
  return ask<Intake>(`/api/intakes?name=${encodeURIComponent(file.name)}`, { method: "POST", bytes: file });
}

/** The newest intakes. */
export function useIntakes() {
  return useQuery({
    queryKey: ["intakes"],
    queryFn: ({ signal }) => ask<Schemas["Listed"][]>("/api/intakes", { signal }),
  });
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
  const ready = intake.data?.status === "open" && intake.data.reading?.blocked === false && !going;
  const preview = useQuery({
    queryKey: [...key, "preview", JSON.stringify(intake.data?.options)],
    queryFn: ({ signal }) => ask<Preview>(`${path}/preview`, { signal }),
    enabled: ready,
    staleTime: 0,
  });
  const keep = (reply: Intake) => queries.setQueryData(key, reply);
  const decide = useMutation({
    mutationFn: (options: Options) => ask<Intake>(`${path}/options`, { method: "PUT", json: options }),
    onSuccess: keep,
  });
  const apply = useMutation({
    mutationFn: () => ask<Intake>(`${path}/apply`, { method: "POST" }),
    onSuccess: (reply) => {
      keep(reply);
      void queries.invalidateQueries({ queryKey: ["intakes"] });
    },
  });
  const cancel = useMutation({ mutationFn: () => ask<Intake>(`${path}/cancel`, { method: "POST" }), onSuccess: keep });
  const leave = useMutation({
    mutationFn: () => ask<undefined>(path, { method: "DELETE" }),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["intakes"] }),
  });
  return { intake, preview, decide, apply, cancel, leave, going, ready };
}
