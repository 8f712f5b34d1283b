import js from "@eslint/js";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** Rooms stand upon those before them: what is at the right may be used by the room, and nothing above it. */
const ROOMS = {
  words: [],
  api: ["words"],
  live: ["api", "words"],
  theme: ["words"],
  parts: ["theme", "api", "words"],
  text: ["parts", "theme", "api", "words"],
  scope: ["text", "parts", "theme", "api", "words"],
  sheet: ["scope", "text", "parts", "theme", "live", "api", "words"],
  session: ["sheet", "api", "words"],
  desk: ["session", "sheet", "scope", "parts", "theme", "words"],
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
  {
    files: ["src/features/**"],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: [
            { regex: "^\\.\\./[a-z]+/", message: "Another feature is entered through its door, its index." },
            { group: ["**/../app/**"], message: "The application is above its features." },
          ],
        },
      ],
    },
  },
  {
    files: ["src/app/**"],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: [
            {
              regex: "/features/[a-z]+/(?!\\w+Page$)",
              message: "A feature is entered through its door; only its pages are fetched by name.",
            },
          ],
        },
      ],
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
