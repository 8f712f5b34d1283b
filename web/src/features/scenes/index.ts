export { sceneFindingSaid } from "./findingWords";
export { staysOf, weightOf, type Look } from "./drawing";
export { nameOfStage, StageShown } from "./StageShown";
export { useFindings, useManyPlayed, usePlayed, useScenes, useScenesFollow } from "./useScenes";
export { fontUrl } from "./useSceneFont";
export { WhereShown } from "./WhereShown";
export { useSceneFiles, type SceneFiles } from "./useSceneFiles";
