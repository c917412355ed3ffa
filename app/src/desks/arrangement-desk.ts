import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { freeName, nameOfKind } from '@fendro/core/song/edit';
import { ENERGY_SHAPES, shapedEnergy } from '@fendro/core/song/energy';
import { LIMITS } from '@fendro/core/song/limits';
import { withEndTempo, withTempos } from '@fendro/core/song/tempos';
import type { HarmonyForm, OccurrenceId, Section, SectionId, SectionKind, TempoPoint } from '@fendro/core/song/schema';
import { nameApart } from '@fendro/core/song/version-words';
import { placedSections } from '@fendro/core/song/versions';
import { ENDINGS, type Ending } from '@fendro/core/song/style';
import { newSection } from '@fendro/core/styles/band';
import { styleIn } from '@fendro/core/styles/styles';
import { newId } from '../store/ids';
import {
  selectMusic,
  selectOwnScore,
  selectPlaced,
  selectScore,
  selectSong,
  selectTakes,
  selectView,
} from '../store/selectors';
import { ScoreActions } from '../store/song.actions';

/** A form that a section can be made in. */
export interface SectionForm {
  readonly form: HarmonyForm;
  readonly bars: number;
  readonly text: string;
}

export const SECTION_FORMS: readonly SectionForm[] = [
  { form: 'twelve bars', bars: 12, text: 'Twelve-bar blues' },
  { form: 'twelve bars', bars: 8, text: 'Eight-bar blues' },
  { form: 'twelve bars', bars: 16, text: 'Sixteen-bar blues' },
  { form: 'loop of four', bars: 8, text: 'Loop of four bars' },
  { form: 'loop of two', bars: 8, text: 'Loop of two bars' },
  { form: 'a a b a', bars: 16, text: 'A a b a in sixteen bars' },
  { form: 'a a b a', bars: 32, text: 'A a b a in thirty-two bars' },
];

/** The running order: sections added, repeated, moved and taken out, the song's end, and its energy. */
@Injectable({ providedIn: 'root' })
export class ArrangementDesk {
  private readonly store = inject(Store);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly placed = this.store.selectSignal(selectPlaced);
  private readonly view = this.store.selectSignal(selectView);

  readonly placesFull = computed(() => (this.score()?.order.length ?? 0) >= LIMITS.places);
  readonly sectionsFull = computed(() => this.placesFull() || (this.score()?.sections.length ?? 0) >= LIMITS.sections);
  /** What keeps another section from being added, in words. */
  readonly limit = computed(() => {
    if (this.placesFull()) return `A running order holds up to ${LIMITS.places} places. Take some out first.`;
    return this.sectionsFull()
      ? `A song holds up to ${LIMITS.sections} sections; those that are there can be repeated.`
      : null;
  });
  /** The sections that can sound again, by name: of several versions those that sound. */
  readonly existing = computed(() => {
    const music = this.music();
    return music ? placedSections(music.score).map((section) => ({ section, name: nameApart(music, section) })) : [];
  });
  /** Ways to end the song, the style's own first. */
  readonly endings = computed((): readonly Ending[] => {
    const score = this.score();
    const own = styleIn(score, score?.ground.style ?? '').ending;
    return [own, ...ENDINGS.filter((ending) => ending !== own)];
  });

  /** Behind the place in view. */
  private after(): { after?: OccurrenceId } {
    const after = this.view()?.occurrence.id;
    return after === undefined ? {} : { after };
  }

  add(kind: SectionKind): void {
    const score = this.score();
    if (!score) return;
    const name = freeName(score, nameOfKind(kind));
    const section = newSection(styleIn(score, score.ground.style), kind, newId('section'), name);
    this.store.dispatch(ScoreActions.sectionAdded({ section, occurrence: newId('occurrence'), ...this.after() }));
  }

  /** Adds a section whose chords are asked for in a form, as long as the form is. */
  addInForm({ form, bars }: SectionForm): void {
    const score = this.score();
    if (!score) return;
    const name = freeName(score, nameOfKind('verse'));
    const plain = newSection(styleIn(score, score.ground.style), 'verse', newId('section'), name);
    const section = { ...plain, bars, harmonyBrief: { ...plain.harmonyBrief, form } };
    this.store.dispatch(ScoreActions.sectionAdded({ section, occurrence: newId('occurrence'), ...this.after() }));
  }

  repeat(section: SectionId): void {
    this.store.dispatch(
      ScoreActions.occurrenceAdded({ occurrence: { id: newId('occurrence'), section }, ...this.after() }),
    );
  }

  /** Takes a place out; the last one stays. */
  remove(occurrence: OccurrenceId): void {
    this.store.dispatch(ScoreActions.occurrenceRemoved({ occurrence }));
  }

  move(occurrence: OccurrenceId, to: number): void {
    if (to >= 0 && to < this.placed().length) this.store.dispatch(ScoreActions.occurrenceMoved({ occurrence, to }));
  }

  /**
   * Adds an ending that every part plays, after the last section. What drafts it is fetched when it is asked for.
   *
   * @param gesture  what it is one step of undo with; the section in view stays in view then
   */
  async end(ending: Ending, gesture?: string): Promise<void> {
    const asker = this.song().open?.id;
    const { endSong } = await import('@fendro/core/compose/ending');
    // Another song may have been opened meanwhile: it did not ask for an end.
    const score = asker === this.song().open?.id ? this.ownScore() : null;
    const ended = score ? endSong(score, this.takes(), ending, newId) : null;
    if (ended)
      this.store.dispatch(
        ScoreActions.revised({
          name: 'end the song',
          score: ended.score,
          takes: ended.takes,
          released: [],
          ...(gesture === undefined ? { view: ended.occurrence } : { gesture }),
        }),
      );
  }

  /** Lets a section slow down or get faster on its last bars; null lets it stay as it is. */
  setEndTempo(section: Section, tempo: number | null, bars: number): void {
    const score = this.ownScore();
    if (!score) return;
    const name = tempo === null ? 'keep the tempo' : 'let the tempo change';
    this.store.dispatch(
      ScoreActions.revised({ name, score: withEndTempo(score, section, tempo, bars), takes: [], released: [] }),
    );
  }

  /** Lets the tempo of a section go as it was drawn, in % of its own. */
  drawTempo(section: Section, points: readonly TempoPoint[], gesture?: string): void {
    const score = this.ownScore();
    if (!score) return;
    this.store.dispatch(
      ScoreActions.revised({
        name: points.length === 0 ? 'keep the tempo' : 'draw the tempo',
        score: withTempos(score, section, points),
        takes: [],
        released: [],
        ...(gesture === undefined ? {} : { gesture }),
      }),
    );
  }

  shapeEnergy(shape: (typeof ENERGY_SHAPES)[number]): void {
    const score = this.score();
    if (score) this.store.dispatch(ScoreActions.energyShaped({ points: shapedEnergy(score, shape) }));
  }

  levelEnergy(): void {
    this.store.dispatch(ScoreActions.energyShaped({ points: [] }));
  }
}
