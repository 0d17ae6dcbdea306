/** The painter and its track reader as a module of their own, for tests to compare with Skia. */
export { Painter } from "./painter";
export { valueAt } from "./track";
