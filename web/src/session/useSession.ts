import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { ask, whenSignedOut, type Schemas } from "../api/client";
import { everyTab, isBoolean, readKept, writeKept } from "../sheet/outbox/browserStore";
import { waiting } from "../sheet/outbox/waiting";

export type Person = Schemas["PersonReply"];

/** Whether the person may settle texts in a language. */
export function reviewsIn(me: Person, tag: string): boolean {
  return me.coordinator || me.levels[tag] === "reviewer";
}

/** Whether the person may see anything. */
export function seesAnything(me: Person): boolean {
  return me.coordinator || Object.keys(me.levels).length > 0;
}

/** Whether the person may offer texts in a language. */
export function contributesIn(me: Person, tag: string): boolean {
  return reviewsIn(me, tag) || me.levels[tag] === "contributor";
}

const SESSION = ["session"];
const HERE = "mellow.here";

/** Whether somebody was signed in when it was asked last in this browser. */
export function wasHere(): boolean {
  return readKept(everyTab, HERE, isBoolean) ?? false;
}

/** Who is signed in: undefined while asking, null for nobody. */
export function useSession() {
  const queries = useQueryClient();
  const session = useQuery({
    queryKey: SESSION,
    queryFn: async () => {
      const reply = await ask<Schemas["SessionReply"]>("/api/session");
      writeKept(everyTab, HERE, reply.person !== undefined);
      return reply;
    },
    staleTime: Infinity,
  });
  useEffect(() => whenSignedOut(() => queries.setQueryData(SESSION, {})), [queries]);
  return {
    // While it is known who is signed in, a line that is down takes nothing off the screen.
    failure: session.data === undefined ? session.error : null,
    retry: () => void session.refetch(),
    person: session.data === undefined ? undefined : (session.data.person ?? null),
    signIn: async (signIn: string, password: string, stay: boolean) => {
      await ask("/api/session", { method: "POST", json: { signIn, password, stay } });
      // Signing in ends the old CSRF token; asking again brings the new one.
      await queries.resetQueries();
      waiting.now();
    },
    signOut: async () => {
      await ask("/api/session", { method: "DELETE" });
      // The door first: what is behind it must not be asked for again, nor stay on the screen.
      queries.setQueryData(SESSION, {});
      queries.removeQueries({ predicate: (query) => query.queryKey[0] !== SESSION[0] });
      queries.setQueryData(SESSION, await ask<Schemas["SessionReply"]>("/api/session"));
    },
  };
}
