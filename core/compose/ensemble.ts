import type { Note } from '../song/schema';
import { chordMask, type Chord } from '../theory/chord';
import { coloursOver } from '../theory/colour';
import { inMask } from '../theory/pitch';
import { range, type MidiNote, type PitchClassMask, type Velocity } from '../theory/units';
import { happens } from '../trellis/random';
import { isDeadEnd, linkLayers, pathSampler } from '../trellis/trellis';
import { temperatureOf } from '../trellis/weights';
import { chordAt, unmet, type PartContext, type PartDraft } from './context';
import { asHeld } from './held-line';
import { drawLine } from './melody/melody';
import type { Streams } from './stages';
import type { Voicing } from '../voicing/types';
import { leadingWeight } from '../voicing/voicing';

const NARROWEST = 3;
const WIDEST = 9;
const KEPT = 60;
/** Adventure in % up to which the voices keep to the chords. */
const PLAIN = 20;

/** The lower voices are a little softer than the top one. */
const softer = (velocity: Velocity): Velocity => Math.max(1, velocity - 6);

/** Every way to set voices under a top note: notes of a set, none too close or too far from the one above. */
function stacksUnder(top: MidiNote, voices: number, mask: PitchClassMask, low: MidiNote): Voicing[] {
  let open: MidiNote[][] = [[top]];
  for (let voice = 1; voice < voices; voice++) {
    open = open.flatMap((stack) => {
      const above = stack[0] as MidiNote;
      return range(WIDEST - NARROWEST + 1)
        .map((step) => above - NARROWEST - step)
        .filter((pitch) => pitch >= low && inMask(mask, pitch))
        .map((pitch) => [pitch, ...stack]);
    });
  }
  return open;
}

/**
 * Drafts two to four voices that move together: a top line as a melody, the others set under each of its notes in the
 * chord, or in the scale where the top note passes, led by least motion.
 */
export function draftEnsemble(context: PartContext, streams: Streams): PartDraft {
  const { brief, keyMask } = context;
  const voices = Math.min(4, Math.max(2, brief.voices));
  const room = brief.high - brief.low;
  if (room < NARROWEST * (voices - 1))
    return unmet(
      'voices',
      `${voices} voices need a register of at least ${NARROWEST * (voices - 1)} semitones; this one has ` +
        `${room}. Ask for fewer voices or widen it.`,
    );
  // The top line leaves room below it for the others.
  const lowestTop = Math.min(brief.high - NARROWEST, brief.low + (voices - 1) * 5);
  const top = drawLine({ ...context, brief: { ...brief, low: lowestTop } }, streams);
  if ('ok' in top) return top;
  if (top.length === 0) return { ok: true, notes: [] };
  // As adventure grows, other notes of the key colour the chords.
  const random = streams('pitch', 'colours');
  const colours = (chord: Chord): PitchClassMask =>
    happens(random, brief.adventure - PLAIN) ? coloursOver(chord) & keyMask : 0;
  const candidates = top.map(({ note: { start, pitch }, stroke }) => {
    if (stroke?.pitch) return [stroke.notes.map((note) => note.pitch)];
    const chord = chordAt(context.chords, start);
    const mask = chord ? chordMask({ ...chord, bass: null }) | colours(chord) : keyMask;
    const inChord = stacksUnder(pitch, voices, mask, brief.low);
    const inScale = inChord.length > 0 ? inChord : stacksUnder(pitch, voices, keyMask | mask, brief.low);
    // Where there is no room for all, as many as fit.
    return (inScale.length > 0 ? inScale : stacksUnder(pitch, 2, keyMask | mask, brief.low).concat([[pitch]])).slice(
      0,
      KEPT,
    );
  });
  const layers = candidates.map((stacks) => Int32Array.from(stacks, (stack) => -60 * (voices - stack.length)));
  const links = candidates.slice(1).map((to, index) => {
    const from = candidates[index] as readonly Voicing[];
    return linkLayers(from.length, to.length, (a, b) => leadingWeight(from[a] as Voicing, to[b] as Voicing));
  });
  const sampler = pathSampler({ layers, links }, temperatureOf(brief.adventure));
  if (isDeadEnd(sampler))
    return unmet(
      'voices',
      'These voices find no way through the chords in this register. Widen it or ask for fewer voices.',
    );
  const path = sampler.draw(streams('pitch', 'under'));
  const notes = top.flatMap(({ note, stroke }, index): Note[] => {
    if (stroke?.pitch) return asHeld(note, stroke);
    const [lead] = asHeld(note, stroke);
    if (!lead) return [];
    const stack = candidates[index]?.[path[index] as number] ?? [note.pitch];
    return stack.map((pitch, voice) =>
      voice === stack.length - 1 ? lead : { ...note, duration: lead.duration, pitch, velocity: softer(lead.velocity) },
    );
  });
  return { ok: true, notes };
}
