import type { ChordSpan, Note } from '@fendro/core/song/schema';
import type { Room } from '@fendro/core/shaping/room';
import { chordMask } from '@fendro/core/theory/chord';
import { keyMask, type Key } from '@fendro/core/theory/key';
import { inMask } from '@fendro/core/theory/pitch';
import { modulo, range, type MidiNote } from '@fendro/core/theory/units';
import type { RowChoice } from '../../desks/close-up-view';
import { inDrumOrder } from '../../ui/drum-rows';

/** Rows as tall as they matter: notes of the chords full, notes of the scale half, all others a line. */
export const HEIGHTS = { full: 16, half: 10, line: 5 } as const;
type RowKind = keyof typeof HEIGHTS;

export interface Row {
  readonly pitch: MidiNote;
  readonly kind: RowKind;
  /** In px from the top. */
  readonly top: number;
  readonly height: number;
}

export interface Rows {
  /** From the top down. */
  readonly all: readonly Row[];
  readonly height: number;
  readonly of: (pitch: MidiNote) => Row | undefined;
  /** The row at a place; the nearest one beyond the ends. */
  readonly at: (y: number) => Row | undefined;
}

export interface RowWish {
  readonly choice: RowChoice;
  readonly notes: readonly Note[];
  readonly drums: boolean;
  readonly key: Key;
  readonly chords: readonly ChordSpan[];
  readonly room: Pick<Room, 'low' | 'high'>;
}

/** A pitch class is a chord note where chords hold it for more than a third of the time. */
const MATTERS = 1 / 3;
/** So many semitones above and below the line are in view, to go to. */
const AROUND = 5;
/** The drums that every kit is struck on: kick, snare, hats, crash, ride. */
const USUAL_DRUMS: readonly MidiNote[] = [36, 38, 42, 46, 49, 51];
const [LOWEST_DRUM, HIGHEST_DRUM] = [35, 81];

/** For how much of the time each pitch class is a chord note, 0–1. */
function shares(chords: readonly ChordSpan[]): number[] {
  const whole = chords.reduce((sum, { duration }) => sum + duration, 0);
  return range(12).map((pitchClass) => {
    const held = chords.filter(({ chord }) => chord && inMask(chordMask(chord), pitchClass));
    return whole === 0 ? 0 : held.reduce((sum, { duration }) => sum + duration, 0) / whole;
  });
}

function stacked(rows: readonly { readonly pitch: MidiNote; readonly kind: RowKind }[]): Rows {
  let top = 0;
  const all = rows.map(({ pitch, kind }) => {
    const row = { pitch, kind, top, height: HEIGHTS[kind] };
    top += row.height;
    return row;
  });
  const byPitch = new Map(all.map((row) => [row.pitch, row]));
  return {
    all,
    height: top,
    of: (pitch) => byPitch.get(pitch),
    at: (y) => all.find((row) => y < row.top + row.height) ?? all.at(-1),
  };
}

function drumRows({ choice, notes }: RowWish): Rows {
  const struck = notes.map(({ pitch }) => pitch);
  const every = range(HIGHEST_DRUM - LOWEST_DRUM + 1).map((index) => LOWEST_DRUM + index);
  const shown = {
    'around the line': [...struck, ...USUAL_DRUMS],
    'what is played': struck.length > 0 ? struck : USUAL_DRUMS,
    'all notes': [...struck, ...every],
  }[choice];
  return stacked(inDrumOrder(shown).map((pitch) => ({ pitch, kind: 'full' })));
}

/** The rows of a line. */
export function rowsOf(wish: RowWish): Rows {
  if (wish.drums) return drumRows(wish);
  const { choice, notes, key, chords, room } = wish;
  const struck = new Set(notes.map(({ pitch }) => pitch));
  const [share, scale] = [shares(chords), keyMask(key)];
  const kindOf = (pitch: MidiNote): RowKind => {
    if ((share[modulo(pitch, 12)] ?? 0) > MATTERS) return 'full';
    return inMask(scale, pitch) ? 'half' : 'line';
  };
  const folded = choice === 'what is played' && struck.size > 0;
  const middle = Math.round((room.low + room.high) / 2);
  const [lowest, highest] = struck.size === 0 ? [middle - 7, middle + 7] : [Math.min(...struck), Math.max(...struck)];
  const [low, high] =
    choice === 'all notes'
      ? [Math.min(room.low, lowest), Math.max(room.high, highest)]
      : [
          Math.max(Math.min(room.low, lowest), lowest - AROUND),
          Math.min(Math.max(room.high, highest), highest + AROUND),
        ];
  return stacked(
    range(high - low + 1)
      .map((index) => high - index)
      .filter((pitch) => !folded || struck.has(pitch))
      .map((pitch) => ({ pitch, kind: folded ? 'full' : kindOf(pitch) })),
  );
}
