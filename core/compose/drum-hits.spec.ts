import { groundFor } from '../styles/band';
import { STYLES, styleOf } from '../styles/styles';
import { DRUM_KEYS, type DrumVoice } from '../song/style';
import { roleOf } from '../song/roles';
import type { Brief, Note, Role } from '../song/schema';
import { range, SIXTEENTH } from '../theory/units';
import { partAsking } from './asking';
import { draft } from './draft';

const BAR = 1920;
const BARS = 8;
const seeds = range(12).map((seed) => seed + 1);

/** What a role plays in a style's home ground, as its band asks for it but for some changes. */
function played(id: string, role: Role, seed: number, change: Partial<Brief>): readonly Note[] {
  const style = styleOf(id);
  const ground = groundFor(style, { tonic: 0, scale: style.scales[0]! });
  const own = style.band.find((part) => part.role === role)?.brief;
  const brief = { ...roleOf(role).brief, ...own, adventure: 0, ...change };
  const asking = partAsking({ ground, bars: BARS, kind: 'verse' }, { role, brief });
  const result = draft({ asking, seed, chords: null, beside: [] }, 0);
  if (!result.ok || result.content.of !== 'part') throw new Error(result.ok ? 'no part' : result.reason);
  return result.content.notes;
}
const struck = (notes: readonly Note[], voice: DrumVoice): number[] =>
  notes.filter(({ pitch }) => pitch === DRUM_KEYS[voice]).map(({ start }) => start);
const usual = (id: string, role: Role): number =>
  styleOf(id).band.find((part) => part.role === role)!.brief.busyness ?? roleOf(role).brief.busyness;

describe('grooves that are thinned and filled', () => {
  it('keep the clave, whatever is asked for', () => {
    const CLAVE = [0, 720, 1440, BAR + 480, BAR + 960];
    for (const factor of [0.7, 1, 1.8])
      for (const seed of seeds) {
        const notes = played('salsa', 'drums', seed, { busyness: factor * usual('salsa', 'drums') });
        const clave = struck(notes, 'clave');
        if (clave.length > 0)
          expect(clave.filter((at) => at < 6 * BAR)).toEqual(
            range(3).flatMap((round) => CLAVE.map((at) => at + round * 2 * BAR)),
          );
      }
  });

  it('keep the backbeat when they are to be sparser', () => {
    for (const id of ['soul', 'indie-rock', 'funk', 'country', 'house'])
      for (const seed of seeds) {
        const notes = played(id, 'drums', seed, { busyness: 0.6 * usual(id, 'drums'), recall: 100 });
        const carried = new Set((['snare', 'stick', 'clap'] as const).flatMap((voice) => struck(notes, voice)));
        for (const bar of range(3)) expect([id, carried.has(bar * BAR + 480)]).toEqual([id, true]);
      }
  });

  it('get more of what keeps time when they are to be busier, and kicks only where the style has them', () => {
    for (const { id, grooves, band } of STYLES.filter((style) => style.metres[0] === '4/4')) {
      if (band.every(({ role }) => role !== 'drums')) continue;
      const written = new Set(
        grooves.flatMap(({ voices }) =>
          (voices.kick ?? '').split('|').flatMap((bar) => [...bar].flatMap((sign, at) => (sign === '.' ? [] : [at]))),
        ),
      );
      for (const seed of seeds) {
        const notes = played(id, 'drums', seed, { busyness: 1.6 * usual(id, 'drums'), recall: 100 });
        const kicks = struck(notes, 'kick').filter((at) => at < 7 * BAR);
        expect([id, kicks.filter((at) => !written.has((at % BAR) / SIXTEENTH))]).toEqual([id, []]);
      }
    }
  });
});
