import { choose, freeName } from '../song/edit';
import { groundOf, keyOf } from '../song/ground';
import { layOut, partTake, type Takes } from '../song/resolve';
import { chosenId } from '../song/section';
import { isDrumRole } from '../song/roles';
import {
  HARMONY,
  type ChordSpan,
  type Note,
  type Part,
  type PartTake,
  type Role,
  type Score,
  type Section,
  type Take,
  type OccurrenceId,
} from '../song/schema';
import { ENDING_NAMES, fromEnding } from './ending-names';
import { newSection } from '../styles/band';
import { DRUM_KEYS, type Ending } from '../song/style';
import { styleIn } from '../styles/styles';
import { chordMask, type Chord } from '../theory/chord';
import { isMinorish, type Key } from '../theory/key';
import { barTicks, beatsOf, type Metre } from '../theory/metre';
import { inMask, pitchClassOf } from '../theory/pitch';
import { readRoman } from '../theory/roman';
import { scaleOf } from '../theory/scale';
import { clamp, modulo, range, TICKS_PER_QUARTER, type MidiNote, type Ticks } from '../theory/units';
import { isDeadEnd } from '../trellis/trellis';
import { plainHarmony } from './harmony/progression';
import { voiceChords, type VoicingWish } from '../voicing/voicing';
import { voicedTake, chordsTake } from '../song/take';

/** A chord of an ending and when everybody strikes it. */
interface Stroke {
  readonly at: Ticks;
  readonly duration: Ticks;
  readonly chord: Chord;
}

const SHORT: Ticks = TICKS_PER_QUARTER / 2;
/** Ticks from note to note of a chord that is rolled out. */
const ROLL = 70;

/** The chords of an ending in a key and metre; the last one is the tonic. */
function strokesOf(ending: Ending, key: Key, metre: Metre): Stroke[] {
  const bar = barTicks(metre);
  const beats = beatsOf(metre);
  const half = beats.find(({ at }) => at >= bar / 2)?.at ?? bar / 2;
  const home = plainHarmony(key, bar)[0]?.chord as Chord;
  const minor = isMinorish(scaleOf(key.scale));
  const degree = (inMajor: string, inMinor: string): Chord => readRoman(minor ? inMinor : inMajor, key) ?? home;
  switch (ending) {
    case 'held':
      return [{ at: 0, duration: bar, chord: home }];
    case 'stop':
      return [{ at: 0, duration: SHORT, chord: home }];
    case 'rolled':
      return [{ at: 0, duration: 2 * bar, chord: home }];
    case 'cadence':
      return [
        { at: 0, duration: bar, chord: degree('V7', 'V7') },
        { at: bar, duration: bar, chord: home },
      ];
    case 'plagal':
      return [
        { at: 0, duration: bar, chord: degree('IV', 'iv') },
        { at: bar, duration: bar, chord: home },
      ];
    case 'turn':
      return [
        { at: 0, duration: half, chord: degree('ii7', 'iiø7') },
        { at: half, duration: bar - half, chord: degree('V7', 'V7') },
        { at: bar, duration: bar, chord: home },
      ];
    case 'tag':
      return [
        ...beats.map(({ at }, index) => ({
          at,
          duration: SHORT,
          chord: index > 0 && index === beats.length - 1 ? degree('V7', 'V7') : home,
        })),
        { at: bar, duration: SHORT, chord: home },
      ];
  }
}

/** Which strokes change the chord: the progression of an ending, up to its last bar line. */
const spansOf = (strokes: readonly Stroke[], length: Ticks): ChordSpan[] => {
  const changes = strokes.filter(({ chord }, index) => index === 0 || chord !== strokes[index - 1]?.chord);
  return changes.map(({ at, chord }, index) => ({
    start: at,
    duration: (changes[index + 1]?.at ?? length) - at,
    chord,
  }));
};

/** The note of a chord in a register that lies nearest to another, the root a little nearer than it is. */
function nearestNote(chord: Chord, from: MidiNote, { low, high }: Part['brief'], last: boolean): MidiNote | null {
  const distance = (pitch: MidiNote): number =>
    Math.abs(pitch - from) - (last && modulo(pitch, 12) === pitchClassOf(chord.root) ? 2 : 0);
  const notes = range(high - low + 1)
    .map((step) => low + step)
    .filter((pitch) => inMask(chordMask({ ...chord, bass: null }), pitch));
  return notes.length === 0 ? null : notes.reduce((best, pitch) => (distance(pitch) < distance(best) ? pitch : best));
}

type Player = (part: Part, strokes: readonly Stroke[], before: readonly Note[], ending: Ending) => Note[];

const velocityOf = ({ brief }: Part, last: boolean): number => clamp(brief.loudness + (last ? 5 : 0), 1, 127);

const playLine: Player = (part, strokes, before) => {
  let from = before.at(-1)?.pitch ?? (part.brief.low + part.brief.high) / 2;
  return strokes.flatMap(({ at, duration, chord }, index): Note[] => {
    const last = index === strokes.length - 1;
    const pitch = nearestNote(chord, from, part.brief, last);
    if (pitch === null) return [];
    from = pitch;
    return [{ start: at, duration, pitch, velocity: velocityOf(part, last) }];
  });
};

const playBass: Player = (part, strokes, before) => {
  let from = before.at(-1)?.pitch ?? part.brief.low;
  return strokes.flatMap(({ at, duration, chord }, index): Note[] => {
    const root = pitchClassOf(chord.root);
    const pitch = nearestNote({ root: chord.root, tones: ['1'], bass: null }, from, part.brief, false);
    if (pitch === null || modulo(pitch, 12) !== root) return [];
    from = pitch;
    return [{ start: at, duration, pitch, velocity: velocityOf(part, index === strokes.length - 1) }];
  });
};

const playChords: Player = (part, strokes, before, ending) => {
  const { low, high, voices } = part.brief;
  const centre =
    before.length === 0 ? (low + high) / 2 : before.reduce((sum, { pitch }) => sum + pitch, 0) / before.length;
  const guitar = part.role === 'strum' || part.role === 'picking';
  const wish: VoicingWish = {
    low,
    high,
    voices: Math.max(3, voices),
    centre,
    ...(guitar ? { family: 'guitar' as const } : {}),
  };
  const voicings = voiceChords(
    strokes.map(({ chord }) => ({ chord })),
    wish,
  );
  if (isDeadEnd(voicings)) return playLine(part, strokes, before, ending);
  return strokes.flatMap(({ at, duration }, index) => {
    const spread = ending === 'rolled' ? ROLL : guitar ? 12 : 0;
    return (voicings[index] ?? []).map((pitch, order): Note => {
      const nudge = Math.min(order * spread, duration - 10, 480);
      return {
        start: at,
        duration,
        pitch,
        velocity: velocityOf(part, index === strokes.length - 1),
        ...(nudge > 0 ? { nudge } : {}),
      };
    });
  });
};

const playDrums: Player = (part, strokes) =>
  strokes.flatMap(({ at }, index): Note[] => {
    const last = index === strokes.length - 1;
    const struck = last ? [DRUM_KEYS.kick, DRUM_KEYS.crash] : [DRUM_KEYS.kick, DRUM_KEYS.snare];
    return struck.map((pitch) => ({ start: at, duration: 120, pitch, velocity: velocityOf(part, last) }));
  });

const playPercussion: Player = (part, strokes, before) => {
  const counts = new Map<MidiNote, number>();
  for (const { pitch } of before) counts.set(pitch, (counts.get(pitch) ?? 0) + 1);
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  return most
    ? strokes.map(({ at }, index): Note => ({
        start: at,
        duration: 120,
        pitch: most[0],
        velocity: velocityOf(part, index === strokes.length - 1),
      }))
    : [];
};

const PLAYERS: Readonly<Partial<Record<Role, Player>>> = {
  melody: playLine,
  solo: playLine,
  counter: playLine,
  ostinato: playLine,
  bass: playBass,
  drums: playDrums,
  percussion: playPercussion,
};

/** A song with an ending, and where it stands. */
export interface Ended {
  readonly score: Score;
  readonly takes: readonly Take[];
  readonly occurrence: OccurrenceId;
}

/**
 * Adds an ending after the last section: a short section of its own, in which every part that played last strikes the
 * ending's chords, lines on the chord note nearest to where they were.
 *
 * @param newId  makes ids, given what for
 * @returns null where the song has no section yet
 */
export function endSong(score: Score, takes: Takes, ending: Ending, newId: (kind: string) => string): Ended | null {
  const last = layOut(score).at(-1)?.section;
  if (!last) return null;
  const ground = groundOf(score, last);
  const { bars } = ENDING_NAMES[ending];
  const bar = barTicks(ground.metre);
  const length = bars * bar;
  const strokes = strokesOf(ending, keyOf(ground), ground.metre);
  const section: Section = {
    ...newSection(styleIn(score, ground.style), 'outro', newId('section'), freeName(score, 'Ending')),
    bars,
    ground: last.ground,
    chordSetting: last.chordSetting,
  };
  const from = fromEnding(ending);
  const chords = chordsTake({ id: newId('take'), section: section.id, length }, spansOf(strokes, length), {
    how: 'picked',
    from,
  });
  const played = score.parts.flatMap((part): PartTake[] => {
    const before = partTake(takes, chosenId(last, part.id));
    if (!before || before.notes.length === 0) return [];
    const player = PLAYERS[part.role] ?? playChords;
    const notes = player(part, strokes, before.notes, ending).filter(
      ({ pitch }) => isDrumRole(part.role) || (pitch >= part.brief.low && pitch <= part.brief.high),
    );
    return [
      voicedTake(
        { id: newId('take'), section: section.id, length },
        part,
        notes.sort((a, b) => a.start - b.start || a.pitch - b.pitch),
        { from, parents: [before.id], harmony: chords.id, ground },
      ),
    ];
  });
  const occurrence = newId('occurrence');
  const added: Score = {
    ...score,
    sections: [...score.sections, section],
    order: [...score.order, { id: occurrence, section: section.id }],
  };
  const chosen = played.reduce(
    (now, take) => choose(now, section.id, take.part, take.id),
    choose(added, section.id, HARMONY, chords.id),
  );
  return { score: chosen, takes: [chords, ...played], occurrence };
}
