/** What went wrong, in the words that came with it. */
export const inWords = (problem: unknown): string => (problem instanceof Error ? problem.message : String(problem));
