import * as fc from 'fast-check';
import { draft } from '../compose/draft';
import { ENGINE } from '../compose/engine';
import { scoreProblem } from '../song/check';
import { scoreSchema } from '../song/schema';
import { applyStyle, groundFor, startScore } from './band';
import { checkStyle, readStyle, styleProblems, writeStyle } from './style-file';
import { copyOfStyle, drummedText, readDrummed, readTimed, timedText } from './style-text';
import { ownStyleIn, styleIn, STYLES, withStyle } from './styles';

const soul = STYLES.find(({ id }) => id === 'soul')!;
/** A style file whose first part is changed. */
const withPart = (change: object): string =>
  JSON.stringify({
    format: 'fendro-style',
    version: 1,
    style: { ...soul, band: soul.band.map((part, index) => (index === 0 ? { ...part, ...change } : part)) },
  });

describe('style files', () => {
  it('come back as they were written, every style that ships among them', () => {
    for (const style of STYLES) {
      const read = readStyle(writeStyle(style));
      expect(read.ok && read.style).toEqual(checkStyle(style).ok && style);
      expect(styleProblems(style)).toEqual([]);
    }
  });

  it.each([
    ['{', /not JSON/],
    ['{"format":"something"}', /not a Fendro style file/],
    [JSON.stringify({ format: 'fendro-style', version: 99, style: {} }), /newer Fendro/],
    [
      JSON.stringify({
        format: 'fendro-style',
        version: 1,
        style: { ...soul, bass: [{ name: 'x', steps: 'R..Q', length: 50 }, soul.bass[0]] },
      }),
      /^bass › 1 › steps: only R F O/,
    ],
    [
      JSON.stringify({
        format: 'fendro-style',
        version: 1,
        style: { ...soul, grooves: [{ name: 'short', voices: { kick: 'x..' } }, soul.grooves[0]] },
      }),
      /groove “short”, kick: bar 1 has 3 steps, but a bar of 4\/4 has 16/,
    ],
    [
      JSON.stringify({
        format: 'fendro-style',
        version: 1,
        style: { ...soul, melody: [{ name: 'odd', steps: 'x-x-x' }] },
      }),
      /melody “odd”: bar 1 has 3 beats, but 4\/4 has 4/,
    ],
    [
      JSON.stringify({ format: 'fendro-style', version: 1, style: { ...soul, metres: ['13/8'] } }),
      /13\/8 is not one that Fendro plays/,
    ],
    [
      JSON.stringify({
        format: 'fendro-style',
        version: 1,
        style: { ...soul, tempo: { low: 90, usual: 60, high: 100 } },
      }),
      /usual tempo 60/,
    ],
    [JSON.stringify({ format: 'fendro-style', version: 1, style: { ...soul, name: '' } }), /name/],
    [withPart({ name: 'x'.repeat(80) }), /band › 1 › name: .*60/],
    [withPart({ name: ' ' }), /band › 1 › name: a part needs a name/],
    [withPart({ instrument: 'x'.repeat(80) }), /band › 1 › instrument/],
  ])('tell what is wrong and where', (text, told) => {
    const read = readStyle(text);
    expect(read.ok).toBe(false);
    expect(read.ok ? '' : read.problems.join(' ')).toMatch(told);
  });

  it('never throw, whatever is read', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.json()), (text) => {
        expect(readStyle(text).ok).toBe(false);
      }),
      { numRuns: 300 },
    );
  });
});

describe('figures as text', () => {
  it('come back as they were, for every style', () => {
    for (const style of STYLES) {
      for (const figures of [style.comping, style.bass])
        expect(readTimed(timedText(figures), 'x')).toEqual({ ok: true, figures });
      for (const figures of [style.grooves, style.fills])
        expect(readDrummed(drummedText(figures), 'x')).toEqual({ ok: true, figures });
    }
  });

  it('tell the line that cannot be read', () => {
    expect(readTimed('a = x... @50\nb x...', 'Bass')).toEqual({
      ok: false,
      problem: 'Bass, line 2: a line needs a name, “=” and steps.',
    });
    expect(readTimed('a = x... x... @50', 'Bass')).toMatchObject({
      ok: false,
      problem: expect.stringContaining('without spaces') as string,
    });
    expect(readDrummed('a = kick x...; !', 'Grooves')).toMatchObject({
      ok: false,
      problem: expect.stringContaining('“!”') as string,
    });
  });
});

describe('a style of one’s own', () => {
  const own = {
    ...copyOfStyle(soul, 'style-1', 'Harbour soul'),
    bass: [
      { name: 'one', steps: 'R...............', length: 90 },
      { name: 'one', steps: 'R...............', length: 90 },
    ],
  };

  it('goes with the song that uses it, and what it drafts follows its figures', () => {
    const score = applyStyle(
      startScore('x', groundFor(STYLES[0]!, { tonic: 0, scale: 'major' }), STYLES[0]!),
      own,
      { pace: true, sounds: false, missing: false },
      () => 'new',
    );
    expect(score.styles).toEqual([own]);
    expect(scoreSchema.safeParse(JSON.parse(JSON.stringify(score))).success).toBe(true);
    expect(styleIn(score, 'style-1').name).toBe('Harbour soul');
    expect(ownStyleIn(score, 'soul')).toBeUndefined();
    expect(withStyle(score, own)).toBe(score);
    expect(withStyle(score, soul)).toBe(score);
    const bass = score.parts.find(({ role }) => role === 'bass')!;
    const request = {
      asking: {
        engine: ENGINE,
        ground: score.ground,
        bars: 4,
        kind: 'verse' as const,
        role: bass.role,
        brief: bass.brief,
        beside: [],
      },
      seed: 5,
      chords: null,
      beside: [],
    };
    const drafted = draft({ ...request, style: own }, 0);
    expect(
      drafted.ok && drafted.content.of === 'part' && drafted.content.notes.every(({ start }) => start % 1920 === 0),
    ).toBe(true);
    expect(draft(request, 0)).not.toEqual(drafted);
  });

  it('changed seventy times go on opening: those that nothing is drafted in any more give way', () => {
    let score = startScore('x', groundFor(STYLES[0]!, { tonic: 0, scale: 'major' }), STYLES[0]!);
    for (let change = 0; change < 70; change++) {
      score = applyStyle(
        score,
        copyOfStyle(soul, `style-${change}`, 'Valley soul'),
        { pace: false, sounds: false, missing: false },
        () => 'new',
      );
      expect(scoreProblem(score, {})).toBeNull();
      expect(ownStyleIn(score, score.ground.style)?.id).toBe(`style-${change}`);
    }
    expect(score.styles).toHaveLength(64);
  });
});
