import type { CurveKind, Note, Part, Role, TempoPoint } from '../../song/schema';
import type { MoveKind } from '../../song/moves';
import type { Chord } from '../../theory/chord';
import type { Key } from '../../theory/key';
import type { Metre } from '../../theory/metre';
import type { MidiNote, Ticks, Velocity } from '../../theory/units';

/** What a MIDI file holds, in Fendro's own terms: lines that can become parts, stretches that can become sections. */

/** A note of an imported line, in Fendro's own ticks from the beginning of the file. */
export interface ImportNote extends Pick<Note, CurveKind> {
  readonly start: Ticks;
  /** As long as it sounds, the pedal included. */
  readonly duration: Ticks;
  readonly pitch: MidiNote;
  readonly velocity: Velocity;
  /** How long its key was held, where a pedal let it sound longer. */
  readonly held?: Ticks;
}

/** A value from a moment of the file on. */
export interface ImportPoint {
  readonly at: Ticks;
  readonly value: number;
}

/** One channel of one track: what can become a part. */
export interface ImportLine extends Pick<Part, 'tone'> {
  readonly id: string;
  readonly name: string;
  readonly drums: boolean;
  readonly role: Role;
  readonly instrument: string;
  /** How it stands in the mix where its first note begins; absent where the file does not say it. */
  readonly level?: number;
  readonly pan?: number;
  /** How it moves in the mix, each kind that changes after that; in order. */
  readonly moves: Partial<Readonly<Record<MoveKind, readonly ImportPoint[]>>>;
  readonly notes: readonly ImportNote[];
}

/** A stretch of the file that becomes a section. */
export interface ImportSection {
  readonly name: string;
  /** Where its first bar begins; a pick-up may come before it. */
  readonly start: Ticks;
  readonly bars: number;
  readonly metre: Metre;
  /** Quarter notes a minute at its start, and how that changes on its way, in % of it. */
  readonly tempo: number;
  readonly tempos: readonly TempoPoint[];
  /** The key that the file states for it. */
  readonly key: Key | null;
}

/** A chord that the file names; null where it says that there is none. */
export interface ImportChord {
  readonly at: Ticks;
  readonly chord: Chord | null;
}

export interface ImportFile {
  readonly lines: readonly ImportLine[];
  readonly sections: readonly ImportSection[];
  readonly length: Ticks;
  /** The chords that the file names, in order; none where it names no chords. */
  readonly chords: readonly ImportChord[];
  /** What had to be changed to bring the file in, and what was lost on its way, in words. */
  readonly remarks: readonly string[];
}
