import { bound, counted, named, rows, TWENTIETHS, type BoundSetting, type Row } from '../settings/setting';
import { LONGEST_LEAN, type Lean } from '../song/schema';

/** What can be set of a leaning that is at work; the first is what its word steps. */

const BARS = [1, 2, 3, 4, 6, 8, 12, 16, 24, 32, LONGEST_LEAN];
const said = (bars: number): string => (bars === 1 ? '1 bar' : `${bars} bars`);

type Slowly = Extract<Lean, { readonly goes: 'slowly' }>;
type ByChance = Extract<Lean, { readonly goes: 'by chance' }>;

const bars = <L extends Lean>(label: string): Row<L> => [
  'bars',
  label,
  counted(BARS, said),
  (lean) => lean.bars,
  (lean, value) => ({ ...lean, bars: Number(value) }),
];

const SLOWLY = rows<Slowly>(bars('Over'), [
  'then',
  'Then it',
  named(['stays', 'comes back'], { stays: 'stays there', 'comes back': 'comes back as slowly' }),
  ({ then }) => then,
  (lean, value) => ({ ...lean, then: value as Slowly['then'] }),
]);

const BY_CHANCE = rows<ByChance>(
  [
    'chance',
    'How often',
    counted(TWENTIETHS, (percent) => `in ${percent} %`),
    ({ chance }) => chance,
    (lean, value) => ({ ...lean, chance: Number(value) }),
  ],
  bars('Decided anew every'),
);

export const leanSettings = (lean: Lean): readonly BoundSetting<Lean>[] =>
  lean.goes === 'slowly' ? bound(SLOWLY, lean) : bound(BY_CHANCE, lean);
