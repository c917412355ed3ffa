/** Where keys mean what a command says: on every page, all over the workspace, or in one region of it. */
export const REGIONS = [
  'anywhere',
  'workspace',
  'song-line',
  'running-order',
  'sheet',
  'chords',
  'bench',
  'drawer',
  'close-up',
] as const;
export type Region = (typeof REGIONS)[number];

/**
 * One thing that a writer can do, as a value. Keys, the sheet of keys, buttons with their tooltips, menus, the list of
 * commands and, later, controls of devices all go by its id.
 */
export interface Command {
  /** Stays as it is for good: own keys on the shelf name it. */
  readonly id: string;
  /** The heading under which it is listed. */
  readonly group: string;
  /** What it does, as one says it to somebody: "Keep the heard take". */
  readonly words: string;
  /** What it would do right now, where that says more: "Undo: draw the energy". */
  readonly now?: () => string;
  /** Keys that it comes with, as key-chord.ts writes them. */
  readonly keys: readonly string[];
  readonly region: Region;
  /** False where it could do nothing now. Reads signals. */
  readonly enabled?: () => boolean;
  /** For what is on or off: whether it is on. Reads signals. */
  readonly pressed?: () => boolean;
  /** True where a key that is held down does it again and again. */
  readonly repeats?: boolean;
  readonly run: () => unknown;
  /** For what lasts as long as its key is held: what ends it. */
  readonly release?: () => void;
}

/** A key that belongs to one kind of control, such as the arrows of a list: listed, but not to be changed. */
export interface ControlKey {
  readonly keys: readonly string[];
  readonly words: string;
}

type Listed = Omit<Command, 'group' | 'region'> & { readonly region?: Region };

/** Commands under one heading that work in one region, where they do not say otherwise. */
export const grouped = (group: string, region: Region, commands: readonly Listed[]): readonly Command[] =>
  commands.map((command) => ({ region, ...command, group }));
