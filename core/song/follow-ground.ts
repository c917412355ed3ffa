import { handMoved, withoutHand } from './chord-hand';
import { chordMask, transposeChord, type Chord } from '../theory/chord';
import { keyMask, keyNotes, semitonesBetween, type Key } from '../theory/key';
import { inMask, intervalOf, pitchClassOf } from '../theory/pitch';
import { scaleOf } from '../theory/scale';
import { spellChord } from '../theory/spelling';
import { modulo, type MidiNote, type Semitones } from '../theory/units';
import { groundOf, keyOf, withoutWeights } from './ground';
import { harmonyTake, partTake, soundingId, type HeardTakes, type Takes } from './resolve';
import { isDrumRole } from './roles';
import {
  HARMONY,
  type ChordSpan,
  type Ground,
  type HarmonyTake,
  type Note,
  type OwnGround,
  type PartTake,
  type Score,
  type Section,
  type Take,
  type SectionId,
  type LineId,
  type TakeId,
} from './schema';
import { notesOver } from './follow-chords';
import { holdsFollow, holdsOf } from './holds';
import { fittedTake, fittedChords } from './take';
import { withChoices } from './section';

/** How the music that is there follows a change of key or scale. */
export type Following = 'move' | 'refit' | 'stay';

/** A change of the song's ground, or of one section's own. */
export interface GroundChange {
  /** Null for the song. */
  readonly section: SectionId | null;
  readonly change: Partial<Ground>;
}

export interface Followed {
  readonly score: Score;
  readonly takes: readonly Take[];
}

/** The score on its new ground, its music as it was. */
export function withGround(score: Score, { section, change }: GroundChange): Score {
  if (section === null) {
    const next = { ...score.ground, ...change };
    return {
      ...score,
      ground:
        change.scale !== undefined && change.scale !== score.ground.scale && !change.weights
          ? withoutWeights(next)
          : next,
    };
  }
  return {
    ...score,
    sections: score.sections.map((other) =>
      other.id === section ? { ...other, ground: ownGround(score.ground, { ...other.ground, ...change }) } : other,
    ),
  };
}

/** What a section sets for itself; what equals the song's is left out, so that it goes on following the song. */
function ownGround(song: Ground, own: OwnGround): OwnGround {
  return Object.fromEntries(
    Object.entries(own).filter(
      ([name, value]) => JSON.stringify(value) !== JSON.stringify(song[name as keyof OwnGround]),
    ),
  );
}

/**
 * A chord on the same degree of another key: one of the key's own is built anew from the new scale, others keep their
 * kind.
 */
export function refitChord(chord: Chord, from: Key, to: Key): Chord {
  const place = keyNotes(from).findIndex((note) => pitchClassOf(note) === pitchClassOf(chord.root));
  const notes = keyNotes(to);
  const native = (chordMask({ ...chord, bass: null }) & ~keyMask(from)) === 0;
  if (place < 0 || !native || scaleOf(from.scale).degrees.length !== notes.length)
    return spellChord(transposeChord(chord, to.tonic - from.tonic), to);
  const root = notes[place] as number;
  const tones = chord.tones.map((tone) => {
    const number = /\d+/.exec(tone)?.[0] ?? '1';
    const options = [tone, number, `b${number}`, `#${number}`, `bb${number}`];
    return options.find((option) => inMask(keyMask(to), pitchClassOf(root + intervalOf(option)))) ?? tone;
  });
  const bass =
    chord.bass === null
      ? null
      : (notes[keyNotes(from).findIndex((note) => pitchClassOf(note) === pitchClassOf(chord.bass ?? 0))] ??
        chord.bass + to.tonic - from.tonic);
  return spellChord({ root, tones, bass }, to);
}

/** A note on the same degree of another scale, as near the moved pitch as it comes. */
function refitPitch(pitch: MidiNote, from: Key, to: Key, shift: Semitones): MidiNote {
  const old = scaleOf(from.scale).semitones;
  const next = scaleOf(to.scale).semitones;
  const step = modulo(pitch - pitchClassOf(from.tonic), 12);
  const place = old.indexOf(step);
  if (place < 0 || old.length !== next.length) {
    // Between scales of different size a note stays where the new scale has it, else goes to its nearest note.
    const moved = pitch + shift;
    const options = [0, -1, 1, -2, 2].map((by) => moved + by);
    return place < 0 ? moved : (options.find((option) => inMask(keyMask(to), option)) ?? moved);
  }
  return pitch + shift + ((next[place] as number) - step);
}

/** Keeps a take in what can be heard: whole octaves, so that its line stays as it is. */
function withinReach(notes: readonly Note[]): Note[] {
  const low = Math.min(...notes.map(({ pitch }) => pitch));
  const high = Math.max(...notes.map(({ pitch }) => pitch));
  const by = low < 0 ? 12 * Math.ceil(-low / 12) : high > 127 ? -12 * Math.ceil((high - 127) / 12) : 0;
  return notes.map((note) => (by === 0 ? note : { ...note, pitch: Math.min(127, Math.max(0, note.pitch + by)) }));
}

function followChords(chords: readonly ChordSpan[], from: Key, to: Key, how: Following, shift: Semitones): ChordSpan[] {
  return chords.map((span) => {
    if (!span.chord) return span;
    const chord =
      how === 'move'
        ? spellChord(transposeChord(span.chord, to.tonic - from.tonic), to)
        : refitChord(span.chord, from, to);
    const { voicing } = span;
    if (!voicing) return { ...span, chord };
    return { ...span, chord, voicing: how === 'move' ? handMoved(voicing, shift) : withoutHand(voicing) };
  });
}

/**
 * Changes key or scale and lets the music follow: moved by the interval between the tonics, re-fitted to the new scale
 * degree by degree, or left as it is. Only takes that sound follow; all others stay in the ledger as they are. Drums
 * never move.
 *
 * @param heard  takes that sound in place of the chosen ones; they follow and become chosen
 */
export function followGround(
  score: Score,
  takes: Takes,
  heard: HeardTakes,
  change: GroundChange,
  how: Following,
  newId: () => string,
): Followed {
  const changed = withGround(score, change);
  if (how === 'stay') return { score: changed, takes: [] };
  const made: Take[] = [];
  const sections = changed.sections.map((section): Section => {
    const from = keyOf(groundOf(score, score.sections.find(({ id }) => id === section.id) ?? section));
    const ground = groundOf(changed, section);
    const to = keyOf(ground);
    if (from.tonic === to.tonic && from.scale === to.scale) return section;
    const followed = followSection(section, score, takes, heard, from, ground, how, newId);
    made.push(...followed.takes);
    return followed.section;
  });
  return { score: { ...changed, sections }, takes: made };
}

function followSection(
  section: Section,
  score: Score,
  takes: Takes,
  heard: HeardTakes,
  from: Key,
  ground: Ground,
  how: Following,
  newId: () => string,
): { section: Section; takes: Take[] } {
  const to = keyOf(ground);
  const shift = semitonesBetween(from, to);
  /** Takes that followed, by what each was before; what is held of one goes on being held of the other. */
  const followed = new Map<TakeId, Take>();
  const follow = <T extends Take>(take: T, anew: (take: T, id: TakeId) => Take): TakeId => {
    const made = followed.get(take.id) ?? anew(take, newId());
    followed.set(take.id, made);
    return made.id;
  };
  const sounding = harmonyTake(takes, soundingId(section, HARMONY, heard));
  const followHarmony = (take: HarmonyTake): TakeId =>
    follow(take, ({ chords }, id) => fittedChords(id, take, followChords(chords, from, to, how, shift)));
  const harmony = sounding ? followHarmony(sounding) : null;
  const followPart = (take: PartTake): TakeId =>
    follow(take, (before, id) => {
      const notes = notesOver(before, sounding?.id ?? null, from, takes).map((note) => ({
        ...note,
        pitch: how === 'move' ? note.pitch + shift : refitPitch(note.pitch, from, to, shift),
      }));
      const over = before.over && { ...before.over, ...to, harmony: harmony ?? before.over.harmony };
      return fittedTake(id, before, withinReach(notes), over);
    });
  const chosen: [LineId, TakeId][] = harmony === null ? [] : [[HARMONY, harmony]];
  const held = (line: LineId): TakeId[] => holdsOf(section, line).map(({ take }) => take);
  for (const id of held(HARMONY)) {
    const take = harmonyTake(takes, id);
    if (take) followHarmony(take);
  }
  for (const part of score.parts) {
    if (isDrumRole(part.role)) continue;
    const take = partTake(takes, soundingId(section, part.id, heard));
    // What goes on by itself is made in whatever key sounds.
    if (take) chosen.push([part.id, take.pattern ? take.id : followPart(take)]);
    for (const id of held(part.id)) {
      const other = partTake(takes, id);
      if (other) followPart(other);
    }
  }
  const after = [...followed].reduce(
    (now, [before, take]) => holdsFollow(now, take.of === 'harmony' ? HARMONY : take.part, before, take.id),
    withChoices(section, chosen),
  );
  return { section: after, takes: [...followed.values()] };
}
