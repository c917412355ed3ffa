import type { Note } from '../song/schema';
import { chordMask } from '../theory/chord';
import { inMask } from '../theory/pitch';
import { range, type MidiNote, type PitchClassMask } from '../theory/units';
import { stream } from '../trellis/random';
import { isDeadEnd, linkLayers, pathSampler } from '../trellis/trellis';
import { temperatureOf } from '../trellis/weights';
import { chordAt, unmet, type PartContext, type PartDraft } from './context';
import { draftMelody } from './melody/melody';
import type { Voicing } from '../voicing/types';
import { leadingWeight } from '../voicing/voicing';

const NARROWEST = 3;
const WIDEST = 9;
const KEPT = 60;

/** Every way to set voices under a top note: notes of a set, none too close or too far from the one above. */
function under(top: MidiNote, voices: number, mask: PitchClassMask, low: MidiNote): Voicing[] {
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
export function draftEnsemble(context: PartContext, seed: number, attempt: number): PartDraft {
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
  const top = draftMelody({ ...context, brief: { ...brief, low: lowestTop } }, seed, attempt);
  if (!top.ok || top.notes.length === 0) return top;
  const candidates = top.notes.map(({ start, pitch }) => {
    const chord = chordAt(context.chords, start);
    const mask = chord ? chordMask({ ...chord, bass: null }) : keyMask;
    const inChord = under(pitch, voices, mask, brief.low);
    const inScale = inChord.length > 0 ? inChord : under(pitch, voices, keyMask | mask, brief.low);
    // Where there is no room for all, as many as fit.
    return (inScale.length > 0 ? inScale : under(pitch, 2, keyMask | mask, brief.low).concat([[pitch]])).slice(0, KEPT);
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
  const path = sampler.draw(stream(seed, 'ensemble', 'pitch', attempt));
  const notes = top.notes.flatMap((note, index): Note[] => {
    const stack = candidates[index]?.[path[index] as number] ?? [note.pitch];
    return stack.map((pitch, voice) => ({
      ...note,
      pitch,
      velocity: Math.max(1, note.velocity - (voice === stack.length - 1 ? 0 : 6)),
    }));
  });
  return { ok: true, notes };
}
