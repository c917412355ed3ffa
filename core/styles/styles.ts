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
import type { Style } from './schema';

/** Every style that ships, by family. */
export const STYLES: readonly Style[] = [
  singerSongwriter, slowBallad, folk, country, bluegrass, blues, gospel, soul, funk, swing, bossaNova, samba, salsa, reggae, indieRock, punk, metal, newWave, synthPop, house, techno, drumAndBass, hipHop, loFi, afrobeat, waltz, march, ambient,
];

/** A style by id; a song that names one this build lacks falls back to the first. */
export const styleOf = (id: string): Style => STYLES.find((style) => style.id === id) ?? singerSongwriter;
