/** Rises whenever a drafter changes, so that a stored take says which engine made it. */
export const ENGINE = 6;
