import type { Note, Part } from '../song/schema';
import { DRUM_KEYS, type DrumVoice, type Feel } from '../song/style';
import { isDrumRole } from '../song/roles';
import { clamp, modulo, SIXTEENTH, TICKS_PER_QUARTER, type Percent, type Ticks } from '../theory/units';
import { byStart } from '../song/note-ends';
import { numberOf, remembering } from '../song/remember';

const remembered = remembering();

/** Ticks by which a feel sets each key of a kit, or every note of a role, behind the beat. */
function lateness(feel: Feel, role: Part['role']): (pitch: number) => Ticks {
  const whole = feel.late[role] ?? 0;
  if (!isDrumRole(role)) return () => whole;
  const drums = new Map(
    Object.entries(feel.drums ?? {}).map(([voice, late]) => [DRUM_KEYS[voice as DrumVoice] as number, late]),
  );
  return (pitch) => drums.get(pitch) ?? whole;
}

/**
 * Notes with a style's feel: each role, or each drum, a little behind or ahead of the beat, and the sixteenths of every
 * beat louder or softer. No note crosses a bar line: the first beat of a section or loop would be lost with it.
 *
 * @param amount  0 leaves the notes as they are
 * @param bar     one bar, in ticks
 */
export function felt(
  notes: readonly Note[],
  feel: Feel | undefined,
  amount: Percent,
  role: Part['role'],
  bar: Ticks,
): readonly Note[] {
  if (!feel || amount === 0 || notes.length === 0) return notes;
  return remembered(notes, `${numberOf(feel)} ${amount} ${role} ${bar}`, () => {
    const share = amount / 100;
    const late = lateness(feel, role);
    return notes
      .map((note) => {
        const line = Math.floor(note.start / bar) * bar;
        const start = clamp(note.start + Math.round(late(note.pitch) * share), line, line + bar - 1);
        const accent = feel.accents?.[Math.floor(modulo(note.start, TICKS_PER_QUARTER) / SIXTEENTH)] ?? 0;
        return { ...note, start, velocity: clamp(Math.round(note.velocity + accent * share), 1, 127) };
      })
      .sort(byStart);
  });
}
