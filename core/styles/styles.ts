import { afrobeat } from './afrobeat';
import { ambient } from './ambient';
import { bluegrass } from './bluegrass';
import { blues } from './blues';
import { bossaNova } from './bossa-nova';
import { country } from './country';
import { drumAndBass } from './drum-and-bass';
import { folk } from './folk';
import { funk } from './funk';
import { gospel } from './gospel';
import { hipHop } from './hip-hop';
import { house } from './house';
import { indieRock } from './indie-rock';
import { loFi } from './lo-fi';
import { march } from './march';
import { metal } from './metal';
import { newWave } from './new-wave';
import { punk } from './punk';
import { reggae } from './reggae';
import { salsa } from './salsa';
import { samba } from './samba';
import { singerSongwriter } from './singer-songwriter';
import { slowBallad } from './slow-ballad';
import { soul } from './soul';
import { swing } from './swing';
import { synthPop } from './synth-pop';
import { techno } from './techno';
import { waltz } from './waltz';
import { LIMITS } from '../song/limits';
import type { Score } from '../song/schema';
import type { Style } from '../song/style';

/** Every style that ships, by family. */
export const STYLES: readonly Style[] = [
  singerSongwriter,
  slowBallad,
  folk,
  country,
  bluegrass,
  blues,
  gospel,
  soul,
  funk,
  swing,
  bossaNova,
  samba,
  salsa,
  reggae,
  indieRock,
  punk,
  metal,
  newWave,
  synthPop,
  house,
  techno,
  drumAndBass,
  hipHop,
  loFi,
  afrobeat,
  waltz,
  march,
  ambient,
];

/** A style by id; a song that names one this build lacks falls back to the first. */
export const styleOf = (id: string): Style => STYLES.find((style) => style.id === id) ?? singerSongwriter;

const isShipped = ({ id }: Style): boolean => STYLES.some((style) => style.id === id);

/** The style of the writer's own that a song's drafters must be handed, as it does not ship. */
export const ownStyleIn = (score: Pick<Score, 'styles'> | null, id: string): Style | undefined =>
  score?.styles.find((style) => style.id === id);

/** A style as a song knows it: one of the writer's own that the song carries, or one that ships. */
export const styleIn = (score: Pick<Score, 'styles'> | null, id: string): Style => ownStyleIn(score, id) ?? styleOf(id);

/** Styles that a score drafts in: the song's, those of sections and of parts. */
const stylesInUse = ({ ground, sections, parts }: Score): ReadonlySet<string> =>
  new Set([
    ground.style,
    ...sections.flatMap((section) => section.ground.style ?? []),
    ...parts.flatMap(({ style }) => style ?? []),
  ]);

/**
 * Lets a song carry a style of the writer's own, so that it drafts the same on every machine. Where it carries as many
 * as it can, the oldest that nothing is drafted in any more gives way; takes that were drafted in it stay as they are.
 */
export function withStyle(score: Score, style: Style): Score {
  if (isShipped(style) || score.styles.some(({ id }) => id === style.id)) return score;
  const used = stylesInUse(score);
  const idle = score.styles.length < LIMITS.styles ? undefined : score.styles.find(({ id }) => !used.has(id));
  return { ...score, styles: [...score.styles.filter((own) => own !== idle), style] };
}
