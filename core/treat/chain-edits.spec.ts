import * as fc from 'fast-check';
import { chainSchema, MOST_BRANCHES, MOST_TREATMENTS, type Chain } from '../song/schema';
import { chains, treatments } from '../testing/chains';
import { choiceOf } from '../settings/setting';
import * as edits from './chain-edits';
import { FIRST, TREATMENTS } from './first-treatment';
import { settingsOf } from './treatment-settings';
import { sayInterval, sayLength, sayTreatment, TREATMENT_NAMES } from './words';

const place = fc.record({ branch: fc.nat({ max: 4 }), step: fc.nat({ max: 4 }) });
const sayPitch = (pitch: number): string => `note ${pitch}`;

describe('an edit of a chain', () => {
  it('makes a valid one of a valid one', () => {
    fc.assert(
      fc.property(chains, place, place, treatments, (chain, at, to, treatment) => {
        for (const edited of [
          edits.withTreatment(chain, at, treatment),
          edits.withOther(chain, at, treatment),
          edits.withStruck(chain, at),
          edits.withAllStruck(chain, true),
          edits.withoutTreatment(chain, at),
          edits.withMeanwhile(chain, treatment),
          edits.withoutBranch(chain, at.branch),
          edits.withMoved(chain, at, to),
        ])
          expect(chainSchema.parse(edited)).toEqual(edited);
      }),
    );
  });

  it('keeps every treatment that is moved or struck out', () => {
    fc.assert(
      fc.property(chains, place, fc.constantFrom<1 | -1>(1, -1), (chain, at, by) => {
        const sorted = (of: Chain): string[] =>
          of
            .flat()
            .map((one) => JSON.stringify(one))
            .sort();
        const to = edits.onward(chain, at, by);
        if (edits.treatmentAt(chain, at)) {
          const moved = edits.withMoved(chain, at, to);
          expect(sorted(moved)).toEqual(sorted(chain));
          expect(edits.treatmentAt(moved, to)).toEqual(edits.treatmentAt(chain, at));
        }
        const struck = edits.withStruck(chain, at);
        expect(edits.treatmentAt(edits.withStruck(struck, at), at)?.off ?? false).toBe(
          edits.treatmentAt(chain, at)?.off ?? false,
        );
      }),
    );
  });

  it('puts what is dragged behind what stands before it there', () => {
    fc.assert(
      fc.property(chains, fc.nat(), fc.nat(), (chain, one, other) => {
        const places = edits.placesIn(chain);
        if (places.length === 0) return;
        const [from, to] = [one % places.length, other % places.length];
        const moved = edits.withMoved(chain, places[from]!, edits.draggedTo(chain, from, to));
        const wanted = chain.flat().filter((_, index) => index !== from);
        wanted.splice(to, 0, chain.flat()[from]!);
        expect(moved.flat()).toEqual(wanted);
      }),
    );
  });

  it('has an end where there is no more room', () => {
    let [long, wide]: Chain[] = [edits.PLAIN, edits.PLAIN] as [Chain, Chain];
    for (let count = 0; count < 40; count++) {
      long = edits.withTreatment(long, { branch: 0, step: 0 }, FIRST.octave);
      wide = edits.withMeanwhile(wide, FIRST.octave);
    }
    expect(long[0]).toHaveLength(MOST_TREATMENTS);
    expect(wide).toHaveLength(MOST_BRANCHES);
    expect(edits.withoutTreatment([[], [FIRST.octave]], { branch: 1, step: 0 })).toEqual([[]]);
  });
});

describe('settings of treatments', () => {
  it('each make a valid treatment of a valid one, and say what they were set to', () => {
    fc.assert(
      fc.property(chains, fc.nat(), fc.nat(), (chain, which, to) => {
        for (const treatment of chain.flat()) {
          const settings = settingsOf(treatment, sayPitch);
          const setting = settings[which % settings.length]!;
          const choice = setting.choices[to % setting.choices.length]!;
          const changed = setting.set(choice.value);
          // A note that is added may be taken away by setting it to none; the first stays.
          expect(chainSchema.parse([[changed]])).toEqual([[changed]]);
          const now = settingsOf(changed, sayPitch).find(({ id }) => id === setting.id);
          if (now && !setting.id.startsWith('added')) expect(now.value).toBe(choice.value);
          for (const own of settings) expect(choiceOf(own)?.text).not.toBe('');
        }
      }),
      { numRuns: 200 },
    );
  });
});

describe('a treatment in words', () => {
  it('says what it makes of notes, and of which', () => {
    expect(TREATMENTS.map((does) => sayTreatment(FIRST[does], sayPitch))).toEqual([
      'an octave up',
      'a fifth up',
      'with the third above',
      'arpeggiated up in eighths',
      'strummed',
      'echoed twice, a dotted eighth apart',
      'an eighth later',
      'straying in 30 % by 2 either way in scale steps at most',
      'snapped to the chord',
      'upside down around its first note',
      'backwards',
      'in half time',
      '50 % as long',
      'held to the next',
      'thinned to 70 %',
      '80 % as loud',
      'played loosely by 40 %',
      'the highest alone',
    ]);
    expect(sayTreatment({ ...FIRST.octave, only: { by: 'pitch', low: 60, high: 127 } }, sayPitch)).toBe(
      'an octave up, for notes from note 60 to note 127 only',
    );
    expect([sayInterval(-14), sayInterval(24), sayLength(320)]).toEqual([
      'an octave and a tone down',
      '2 octaves up',
      'a quarter triplet',
    ]);
    expect(new Set(Object.values(TREATMENT_NAMES)).size).toBe(TREATMENTS.length);
  });
});
