import { inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { treatPart } from '@fendro/core/song/edit';
import { withFreshSections } from '@fendro/core/song/fresh-sections';
import { soundingId, type Music } from '@fendro/core/song/resolve';
import { HARMONY, type Score, type Section, type Song } from '@fendro/core/song/schema';
import { withChoices } from '@fendro/core/song/section';
import { openingSong } from '@fendro/core/song/song-file';
import { applyStyle } from '@fendro/core/styles/band';
import { withSetUp, type SetUpChange } from '@fendro/core/styles/set-up';
import { styleIn } from '@fendro/core/styles/styles';
import type { ShelfItem } from '../../storage/shelf-storage';
import { newId } from '../../store/ids';
import { Notices } from '../../store/notices';
import { selectMusic, selectOwnScore, selectPart, selectSection } from '../../store/selectors';
import { ScoreActions } from '../../store/song.actions';
import { inSlices } from '../../ui/in-slices';
import { GuestBand } from '../guest-band';
import { Library } from '../library';
import { StyleDesk } from '../style-desk';
import { TreatDesk } from '../treat-desk';
import { NO_PART, NO_SECTION, type Tried } from './trial';

/** Things that change who plays, or how all of it sounds: they are heard in place of the song until they are taken. */
@Injectable({ providedIn: 'root' })
export class GuestTrials {
  private readonly store = inject(Store);
  private readonly guests = inject(GuestBand);
  private readonly styles = inject(StyleDesk);
  private readonly treatments = inject(TreatDesk);
  private readonly library = inject(Library);
  private readonly notices = inject(Notices);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  /** What a band set-up changes where it is taken. */
  readonly setUp = signal<SetUpChange>({ sounds: true, briefs: false, missing: true });

  async chain({ chain }: ShelfItem<'chains'>): Promise<Tried> {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    if (!music || !section) return NO_SECTION;
    if (!part) return NO_PART;
    await this.guests.play({ score: treatPart(alone(music, section), part.id, chain), takes: { ...music.takes } });
    return this.trial(() => {
      this.treatments.take(chain);
    });
  }

  async style({ id }: ShelfItem<'styles'>, left: AbortSignal): Promise<Tried> {
    if (!this.section()) return NO_SECTION;
    this.silenceWhen(left);
    await this.styles.hear(id);
    return this.trial(() => {
      const change = { pace: false, sounds: false, missing: false };
      this.revise('apply a style', (score) => applyStyle(score, this.styles.styleBy(id), change, () => newId('part')));
    });
  }

  async band({ song }: ShelfItem<'bands'>, left: AbortSignal): Promise<Tried> {
    const band = await this.heardBand(song, left);
    if (typeof band === 'string') return band;
    return this.trial(() => {
      this.revise('take a band set-up', (score) => withSetUp(score, band.score, this.setUp(), () => newId('part')));
    });
  }

  async start({ name, song }: ShelfItem<'starts'>, left: AbortSignal): Promise<Tried> {
    const start = await this.heardBand(song, left);
    if (typeof start === 'string') return start;
    return this.trial(async () => {
      const { score } = withFreshSections(start, newId);
      const result = await this.library.adopt({ ...score, title: name }, []);
      this.notices.say(result.ok ? `“${name}” is a new song. The one before it is among your songs.` : result.reason);
    });
  }

  /** Opens what is kept as a song, and lets its band play over the section's chords. */
  private async heardBand(kept: unknown, left: AbortSignal): Promise<Song | string> {
    const opened = await inSlices(openingSong(kept));
    if (!opened.ok) return opened.reason;
    if (left.aborted) return opened.song;
    this.silenceWhen(left);
    const { score } = opened.song;
    if (this.section()) await this.guests.hear({ parts: score.parts, style: styleIn(score, score.ground.style) });
    return opened.song;
  }

  /** A band that is left while it is being drafted never sounds. */
  private silenceWhen(left: AbortSignal): void {
    left.addEventListener('abort', () => {
      this.guests.silence();
    });
  }

  private revise(name: string, change: (score: Score) => Score): void {
    const score = this.score();
    if (score) this.store.dispatch(ScoreActions.revised({ name, score: change(score), takes: [], released: [] }));
  }

  private trial(take: () => void | Promise<void>): Tried {
    return {
      take: () => {
        this.guests.silence();
        return take();
      },
      letGo: () => {
        this.guests.silence();
      },
    };
  }
}

/** A song of nothing but one section as it sounds now. */
function alone({ score, heard }: Music, section: Section): Score {
  const lines = [HARMONY, ...score.parts.map(({ id }) => id)];
  const own = withChoices(
    section,
    lines.map((line) => [line, soundingId(section, line, heard)] as const),
  );
  return { ...score, sections: [own], order: [{ id: 'heard', section: section.id }], energy: [], remarks: {} };
}
