/** The words that were asked for, in small letters. */
export const wordsIn = (query: string): readonly string[] => query.toLowerCase().split(/\s+/).filter(Boolean);
