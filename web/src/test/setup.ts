import "@testing-library/jest-dom/vitest";
import { cleanup, configure } from "@testing-library/react";
import { afterEach } from "vitest";
import { outbox } from "../sheet/outbox/outbox";

// A busy machine draws slowly; what never appears still fails.
configure({ asyncUtilTimeout: 10_000 });

/** Nobody whom a test speaks of. */
let nobody = 1_000_000;

afterEach(() => {
  cleanup();
  // What a test did not bring to its server must not be sent to that of the next.
  outbox.belongTo(++nobody);
  localStorage.clear();
  sessionStorage.clear();
});
