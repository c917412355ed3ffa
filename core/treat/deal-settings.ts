import { named, rows, bound, type BoundSetting } from '../settings/setting';
import { listed } from '../song/limits';
import { DEAL_WAYS, type Deal, type DealWay } from '../song/schema';

/** The ways of dealing, as they are chosen. */
const WAY_NAMES: Readonly<Record<DealWay, string>> = {
  'in turn': 'in turn, stroke by stroke',
  up: 'note by note, from the first',
  down: 'note by note, from the last',
  'to and fro': 'note by note, there and back',
  'by height': 'by height, the lowest to the first',
  'by chance': 'by chance',
  'to all': 'all of it to each',
};

/** The same in a sentence, before those who are dealt to. */
const WAY_WORDS: Readonly<Record<DealWay, string>> = {
  'in turn': 'dealt in turn to',
  up: 'dealt note by note to',
  down: 'dealt note by note, the last first, to',
  'to and fro': 'dealt note by note, there and back, to',
  'by height': 'dealt by height to',
  'by chance': 'dealt by chance to',
  'to all': 'all of it given to',
};

/** How a line is dealt out, as a setting. */
export const wayOf = (deal: Deal): BoundSetting<Deal> =>
  bound(
    rows<Deal>([
      'way',
      'How',
      named(DEAL_WAYS, WAY_NAMES),
      ({ way }) => way,
      (of, value) => ({ ...of, way: value as DealWay }),
    ]),
    deal,
  )[0] as BoundSetting<Deal>;

/** “dealt in turn to Violin and Cello”. */
export const sayDeal = ({ way, to }: Deal, nameOf: (part: string) => string): string =>
  `${WAY_WORDS[way]} ${listed(to.map(nameOf))}`;
