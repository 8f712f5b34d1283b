/** Whether a run waits for its turn or goes on, so that its state is to be asked for again. */
export function goesOn(run: { status: string } | undefined | null): boolean {
  return run?.status === "queued" || run?.status === "going";
}
