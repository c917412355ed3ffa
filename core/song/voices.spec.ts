import { deliverLines, deliverSong } from '../files/outgoing/deliver';
import { readMidi } from '../files/midi/midi-read';

import { scoreSchema, takeSchema, type Score, type Take } from './schema';
import { heardNotes, musicOf } from '../testing/sounding';
import { scoreWith } from '../testing/scores';
import { splitVoices, voicesOf } from './voices';

/** The demo of the specs with its keys played by an ensemble. */
function song(): { score: Score; takes: Record<string, Take>; part: string } {
  const { score, takes } = scoreWith(8, 0);
  const part = score.parts.find(({ role }) => role === 'pad' || role === 'comping')!.id;
  return {
    score: {
      ...score,
      parts: score.parts.map((own) => (own.id === part ? { ...own, role: 'ensemble', name: 'Choir' } : own)),
    },
    takes,
    part,
  };
}

const sounding = (score: Score, takes: Readonly<Record<string, Take>>, parts: readonly string[]) =>
  heardNotes(score, takes)
    .filter(({ part }) => parts.includes(part))
    .map(({ start, pitch, velocity }) => `${start} ${pitch} ${velocity}`)
    .sort();

describe('voices', () => {
  it('are told apart from the highest down, one note each at a time', () => {
    const note = (start: number, pitch: number) => ({ start, pitch, duration: 100, velocity: 80 });
    expect(
      voicesOf([note(0, 60), note(0, 67), note(100, 72), note(200, 64), note(200, 60), note(200, 69)]).map((voice) =>
        voice.map(({ pitch }) => pitch),
      ),
    ).toEqual([[67, 72, 69], [60, 64], [60]]);
  });

  it('become parts that together sound what the one part sounded', () => {
    const { score, takes, part } = song();
    let serial = 0;
    const split = splitVoices(score, takes, part, (kind) => `${kind}-v${serial++}`);
    expect(split.parts.length).toBeGreaterThanOrEqual(3);
    expect(scoreSchema.safeParse(split.score).success).toBe(true);
    expect(split.takes.every((take) => takeSchema.safeParse(take).success)).toBe(true);
    const all = { ...takes, ...Object.fromEntries(split.takes.map((take) => [take.id, take])) };
    expect(sounding(split.score, all, split.parts)).toEqual(sounding(score, takes, [part]));
    expect(split.score.parts.map(({ name }) => name).filter((name) => name.startsWith('Choir'))).toEqual(
      split.parts.map((_, voice) => `Choir, voice ${voice + 1}`),
    );
  });

  it('are files and tracks of their own when handed over, as they sounded together, and one line changes nothing', () => {
    const { score, takes, part } = song();
    const music = musicOf(score, takes);
    const files = deliverLines(music, { apart: true }).map(({ name }) => name);
    const voices = files.filter((name) => name.includes('Choir, voice'));
    expect(voices.length).toBeGreaterThanOrEqual(3);
    expect(files).toHaveLength(score.parts.length - 1 + voices.length);
    const file = readMidi(deliverSong(music, { apart: true }).bytes);
    const tracks = file.ok ? file.file.tracks.filter(({ name }) => name.startsWith('Choir')) : [];
    expect(tracks.map(({ name }) => name)).toEqual(voices.map((_, voice) => `Choir, voice ${voice + 1}`));
    expect(
      tracks
        .flatMap(({ notes }) => notes)
        .map(({ start, pitch, velocity }) => `${start} ${pitch} ${velocity}`)
        .sort(),
    ).toEqual(sounding(score, takes, [part]));
    const melody = score.parts.find(({ role }) => role === 'melody')!.id;
    expect(splitVoices(score, takes, melody, () => 'x').score).toBe(score);
    expect(splitVoices(score, takes, 'nobody', () => 'x').takes).toEqual([]);
  });
});
