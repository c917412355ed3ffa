/** A thing of the shelf that is being heard: how it becomes the song's, and how the song sounds as before again. */
export interface Trial {
  readonly take: () => void | Promise<void>;
  readonly letGo: () => void;
}

/** A trial, or why a thing cannot be heard here, in words that say what to do. */
export type Tried = Trial | string;

export const isTrial = (tried: Tried): tried is Trial => typeof tried !== 'string';

export const NO_SECTION = 'Open a song first: things are heard in the section in view.';
export const NO_PART = 'Put a part in focus first: it is the one that plays this.';
