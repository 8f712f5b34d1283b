export { Bell } from "./Bell";
export { useBell } from "./useBell";
