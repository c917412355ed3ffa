import { chordsOfFile, keysOfFile } from '@fendro/core/files/incoming/imported-song';
import { pitchedNotes } from '@fendro/core/files/incoming/midi-import';
import { CERTAINTIES, certaintiesOf, type Certainty } from '@fendro/core/listen/certainty';
import { heardFile, type Correction, type WrittenRecording } from '@fendro/core/listen/heard-file';
import type { HeardNote } from '@fendro/core/listen/heard-note';
import { heardSound, type HeardSound } from '@fendro/core/listen/heard-sound';
import { voicesOf } from '@fendro/core/listen/voices';
import { tickAt } from '@fendro/core/listen/written-time';
import { chordsIn, layOut, NOTHING_HEARD } from '@fendro/core/song/resolve';
import { songCourse, tempoOf } from '@fendro/core/sounding/course';
import { perform } from '@fendro/core/sounding/performance';
import { chordFinder } from '@fendro/core/study/chord-finder';
import { chordMask, type Chord } from '@fendro/core/theory/chord';
import { barTicks, beatsOf } from '@fendro/core/theory/metre';
import { inMask, pitchClassOf } from '@fendro/core/theory/pitch';
import { modulo } from '@fendro/core/theory/units';
import type { Case } from './cases';
import type { TrueNote } from './rendered';

/** How well a recording was heard, held against the song that it was made of. */
export interface Score {
  readonly name: string;
  /** Share of beats whose root and third were found. */
  readonly chords: number;
  /** The tempo that was heard as a share of the true one, in counted beats. */
  readonly tempo: number;
  /** How far the first bar line lies from the nearest true one, in true beats. */
  readonly bars: number;
  readonly written: WrittenRecording;
  /** Beats by how sure their chord was said to be, and how many of those were right. */
  readonly words: Readonly<Record<Certainty, { readonly right: number; readonly all: number }>>;
}

const third = (chord: Chord): number => {
  const mask = chordMask(chord);
  const root = pitchClassOf(chord.root);
  return inMask(mask, modulo(root + 4, 12)) ? 4 : inMask(mask, modulo(root + 3, 12)) ? 3 : 0;
};
const kind = (chord: Chord | null): string => (chord ? `${pitchClassOf(chord.root)} ${third(chord)}` : '-');

/** Seconds by which a rendered song begins before its first bar line. */
function leadOf({ song }: Case): number {
  const course = songCourse(song.score);
  const { secondsAt } = tempoOf(course, song.score);
  const { events } = perform({ music: { ...song, heard: NOTHING_HEARD }, course });
  return -Math.min(0, ...events.map(({ at }) => secondsAt(at)));
}

export function scoreOf(one: Case, sound: HeardSound, correction: Correction = {}): Score {
  const { score, takes } = one.song;
  const written = heardFile(sound, correction);
  const { file } = written;
  const lines = file.lines.map(({ id }) => id);
  const [guess] = keysOfFile(file);
  const chords = chordsOfFile(file, lines, guess?.key ?? { tonic: 0, scale: 'major' });
  const spans = chords.flatMap((list, index) =>
    list.map((span) => ({ ...span, start: span.start + (file.sections[index]?.start ?? 0) })),
  );
  const found = chordFinder(spans);
  const certain = certaintiesOf(
    spans,
    pitchedNotes(file.lines).toSorted((a, b) => a.start - b.start),
  );
  const { secondsAt } = tempoOf(songCourse(score), score);
  const lead = leadOf(one);
  const { metre, tempo } = score.ground;
  const own = barTicks(metre);
  const words = Object.fromEntries(CERTAINTIES.map((word) => [word, { right: 0, all: 0 }])) as Record<
    Certainty,
    { right: number; all: number }
  >;
  let [right, all] = [0, 0];
  for (const { section, start, length } of layOut(score)) {
    const truth = chordFinder(chordsIn(section, takes, NOTHING_HEARD));
    for (let bar = 0; bar < length; bar += own)
      for (const beat of beatsOf(metre)) {
        const at = bar + beat.at + beat.length / 2;
        const chord = truth(at);
        if (!chord) continue;
        all++;
        const tick = tickAt(written.time, secondsAt(start + at) + lead);
        const isRight = kind(found(tick)) === kind(chord);
        if (isRight) right++;
        const word = certain[spans.findLastIndex((span) => span.start <= tick)];
        if (!word) continue;
        words[word].all++;
        if (isRight) words[word].right++;
      }
  }
  const beat = beatsOf(metre)[0]?.length ?? 480;
  const counted = (tempo * 480) / beat;
  const beatSeconds = 60 / counted;
  const count = beatsOf(metre).length;
  const beats = (written.first - lead) / beatSeconds;
  const off = beats - count * Math.round(beats / count);
  return {
    name: one.recording.name,
    chords: right / Math.max(1, all),
    tempo: written.tempo / counted,
    bars: off,
    written,
    words,
  };
}

/** How many of the notes of a line were found within 60 ms, and how many of those that were found are in it. */
export function notesFound(truth: readonly TrueNote[], sound: HeardSound): number {
  const heard = voicesOf(sound.notes).flatMap(({ notes }) => notes);
  return f1(truth, heard);
}

export function f1(truth: readonly TrueNote[], heard: readonly HeardNote[]): number {
  const left = new Set(heard);
  let found = 0;
  for (const { start, pitch } of truth) {
    let best: HeardNote | null = null;
    for (const note of left)
      if (note.pitch === pitch && Math.abs(note.start - start) < Math.abs((best?.start ?? start + 0.0601) - start))
        best = note;
    if (!best) continue;
    left.delete(best);
    found++;
  }
  return (2 * found) / Math.max(1, truth.length + heard.length);
}

export const soundOf = ({ recording }: Case): HeardSound => heardSound(recording.samples, recording.activations);
