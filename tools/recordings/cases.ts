import { isDrumRole } from '@fendro/core/song/roles';
import type { Style } from '@fendro/core/song/style';
import { STYLES } from '@fendro/core/styles/styles';
import { songOf, type BandSong } from '../band-song';
import { onPiano, recordingOf, type Recording } from './rendered';

export type Kind = 'band' | 'piano' | 'tune on a piano' | 'tune' | 'bass';
export interface Case {
  readonly kind: Kind;
  readonly style: Style;
  readonly song: BandSong;
  readonly recording: Recording;
}

/** Which parts of a song play in a kind of recording; none where the song has none of them. */
function playing({ score }: BandSong, kind: Kind): readonly string[] {
  const of = (...roles: string[]): string[] =>
    score.parts.filter(({ role }) => roles.includes(role)).map(({ id }) => id);
  if (kind === 'band') return score.parts.map(({ id }) => id);
  if (kind === 'piano') return score.parts.filter(({ role }) => !isDrumRole(role)).map(({ id }) => id);
  return kind === 'bass' ? of('bass').slice(0, 1) : of('melody').slice(0, 1);
}

/** Every recording of a kind. */
export async function* casesOf(kind: Kind): AsyncGenerator<Case> {
  for (const style of STYLES) {
    const song = songOf(style);
    const parts = playing(song, kind);
    if (parts.length === 0) continue;
    const plays = kind === 'piano' || kind === 'tune on a piano' ? onPiano : undefined;
    const name = `${kind} ${style.id}`.replaceAll(' ', '-');
    const recording = await recordingOf(
      name,
      () => song,
      (id) => parts.includes(id),
      plays,
    );
    yield { kind, style, song, recording };
  }
}
