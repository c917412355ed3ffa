import { NOTHING_HEARD } from '../song/resolve';
import { HARMONY, type PartTake } from '../song/schema';
import { scoreWith } from '../testing/scores';
import { musicOf } from '../testing/sounding';
import { requestFor } from './asking';
import { ENGINE } from './engine';

const { score, takes } = scoreWith(1, 0);
const section = score.sections[0]!;
const partOf = (role: string) => score.parts.find((part) => part.role === role)!;
const music = musicOf(score, takes);

describe('an asking', () => {
  it('says all that a draft depends on, and who is listened to', () => {
    const bass = partOf('bass');
    const request = requestFor(music, section, bass.id, 7)!;
    const drums = takes[section.chosen[partOf('drums').id]!] as PartTake;
    expect(request.asking).toMatchObject({
      engine: ENGINE,
      ground: score.ground,
      bars: 2,
      kind: 'verse',
      role: 'bass',
      brief: bass.brief,
      harmony: section.harmony,
      beside: [drums.id],
    });
    expect(request.beside).toEqual([drums]);
    expect(request.chords).toBe((takes[section.harmony!] as { chords: unknown }).chords);
    expect(request.seed).not.toBe(requestFor(music, section, partOf('melody').id, 7)!.seed);
    expect(request.asking).not.toHaveProperty('energy');
    expect(requestFor(music, section, 'nobody', 7)).toBeNull();
  });

  it('listens to what is heard, leans on the energy line, keeps to a solo’s bars and takes a part’s own style', () => {
    const [bass, drums] = [partOf('bass'), partOf('drums')];
    const heard = { [section.id]: { [drums.id]: `${section.id}-${drums.id}-1` } };
    expect(requestFor({ ...music, heard }, section, bass.id, 7)!.asking.beside).toEqual([
      `${section.id}-${drums.id}-1`,
    ]);
    const lifted = {
      ...score,
      parts: score.parts.map((part) => (part === bass ? { ...part, style: 'reggae' } : part)),
      energy: [{ occurrence: score.order[0]!.id, at: 0, value: 90 }],
    };
    const solo = { ...section, solos: [{ part: bass.id, over: null, from: 1, to: 2 }] };
    const { asking } = requestFor(musicOf(lifted, takes), solo, bass.id, 7)!;
    expect(asking).toMatchObject({ energy: 90, only: { from: 1, to: 2 }, ground: { style: 'reggae' } });
  });

  it('for chords keeps those of held bars, cut to the bars that are held, and hears the melody they go under', () => {
    const held = { ...section, heldBars: [1], harmonyBrief: { ...section.harmonyBrief, under: partOf('melody').id } };
    const { asking, beside } = requestFor(music, held, HARMONY, 7)!;
    expect(asking.heldChords!.length).toBeGreaterThan(0);
    for (const { start, duration } of asking.heldChords!) {
      expect(start).toBeGreaterThanOrEqual(1920);
      expect(start + duration).toBeLessThanOrEqual(3840);
    }
    expect(beside.map(({ part }) => part)).toEqual([partOf('melody').id]);
    const silent = { ...held, chosen: {} };
    expect(requestFor(musicOf(score, takes, NOTHING_HEARD), silent, HARMONY, 7)!.asking.harmonyBrief!.under).toBeNull();
  });
});
