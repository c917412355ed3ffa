import { HARMONY } from '../song/schema';
import { changePlan } from '../song/plan';
import { chosenId } from '../song/section';
import { scoreWith } from '../testing/scores';
import { motifFrom } from './motif';
import { songLines, withHook } from './whole-song';

const { score, takes } = scoreWith(2, 0);
const [verse, chorus] = score.sections;
const melody = score.parts.find(({ role }) => role === 'melody')!;
const bass = score.parts.find(({ role }) => role === 'bass')!;

describe('a whole song', () => {
  it('is drafted chorus first, chords before parts, who is listened to before who listens', () => {
    const lines = songLines(score, new Set(score.sections.map(({ id }) => id)));
    expect(lines[0]).toEqual({ section: chorus!.id, line: HARMONY });
    expect(lines).toHaveLength(score.sections.length * (score.parts.length + 1));
    const place = (role: string): number =>
      lines.findIndex(({ line }) => line === score.parts.find((part) => part.role === role)!.id);
    expect(place('drums')).toBeLessThan(place('bass'));
    expect(songLines(score, new Set([verse!.id])).every(({ section }) => section === verse!.id)).toBe(true);
  });

  it('remembers how its first melody begins, stated there and used as each kind does', () => {
    const take = chosenId(chorus!, melody.id)!;
    const hooked = withHook(score, takes, take, 'hook');
    expect(hooked.motifs).toMatchObject([{ id: 'hook', name: 'Hook of Chorus', bars: 2 }]);
    expect(hooked.sections.map(({ plan }) => plan)).toEqual([
      { bound: true, motif: 'hook', use: 'answers' },
      { bound: true, motif: 'hook', use: 'states' },
    ]);
    expect(withHook(hooked, takes, take, 'again')).toBe(hooked);
  });

  it('remembers nothing of a bass, or of a section that is free', () => {
    expect(withHook(score, takes, chosenId(chorus!, bass.id)!, 'hook')).toBe(score);
    const free = changePlan(score, chorus!.id, { bound: false });
    expect(withHook(free, takes, chosenId(chorus!, melody.id)!, 'hook')).toBe(free);
  });
});

describe('a motif from a melody', () => {
  const key = { tonic: 0, scale: 'major' };
  const note = (start: number, pitch: number) => ({ start, duration: 480, pitch, velocity: 90 });

  it('is its rhythm with steps of the scale from its first note', () => {
    expect(motifFrom([note(-240, 55), note(0, 60), note(480, 64), note(1440, 59), note(4000, 72)], key, 1920)).toEqual({
      bars: 2,
      barTicks: 1920,
      notes: [
        { start: 0, duration: 480, step: 0 },
        { start: 480, duration: 480, step: 2 },
        { start: 1440, duration: 480, step: -1 },
      ],
    });
  });

  it('takes the highest of notes that are struck together, and may begin later', () => {
    const chordal = [note(1920, 60), note(1920, 67), note(2400, 65)];
    expect(motifFrom(chordal, key, 1920, 1, 1)!.notes.map(({ step }) => step)).toEqual([0, -1]);
    expect(motifFrom(chordal, key, 1920, 4)).toBeNull();
  });
});
