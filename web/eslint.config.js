import js from "@eslint/js";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** Rooms stand upon those before them: what is at the right may be used by the room, and nothing above it. */
const ROOMS = {
  words: [],
  api: ["words"],
  live: ["api", "words"],
  theme: ["words"],
  text: ["theme", "api", "words"],
  scope: ["text", "theme", "api", "words"],
  sheet: ["scope", "text", "theme", "live", "api", "words"],
};
const ABOVE = ["app", "features", ...Object.keys(ROOMS)];

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.d.ts"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  reactHooks.configs.flat.recommended,
  {
    rules: {
      "no-console": "error",
      "@typescript-eslint/no-non-null-assertion": "error",
      "react-hooks/incompatible-library": "off",
    },
  },
  ...Object.entries(ROOMS).map(([room, below]) => ({
    files: [`src/${room}/**`],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: [
            {
              group: ABOVE.filter((other) => other !== room && !below.includes(other)).map(
                (other) => `**/../${other}/**`,
              ),
              message: `The room ${room} stands below that one.`,
            },
          ],
        },
      ],
    },
  })),
);
