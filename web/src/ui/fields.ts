/** How fields to type in look everywhere. */
export const FIELD = "h-8 w-full min-w-0 rounded border border-line bg-card px-2";
