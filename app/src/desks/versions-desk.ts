import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { LIMITS, shortened } from '@fendro/core/song/limits';
import { HARMONY, type Score, type Section, type SectionId, type Take } from '@fendro/core/song/schema';
import { copyVersion, nameVersion, removeVersion, switchVersion, versionsOf } from '@fendro/core/song/versions';
import { versionNames } from '@fendro/core/song/version-words';
import { newId } from '../store/ids';
import { News } from '../store/news';
import { selectBar, selectMusic, selectOwnScore, selectPlaced, selectView } from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';
import { ScoreActions } from '../store/song.actions';
import { Undecided } from './undecided';

/** A version of the section in view. */
export interface ShownVersion {
  readonly id: SectionId;
  readonly name: string;
  /** Whether the place in view plays it. */
  readonly present: boolean;
  /** How many places of the running order play it. */
  readonly places: number;
}

/** Versions of the section in view: made, named, let go, and switched for all its places or one. */
@Injectable({ providedIn: 'root' })
export class VersionsDesk {
  private readonly store = inject(Store);
  private readonly news = inject(News);
  private readonly undecided = inject(Undecided);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly view = this.store.selectSignal(selectView);
  private readonly placed = this.store.selectSignal(selectPlaced);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  /** Whether the name of the version in view is being typed. */
  readonly naming = signal(false);

  private readonly group = computed((): readonly Section[] => {
    const [score, view] = [this.score(), this.view()];
    const section = score?.sections.find(({ id }) => id === view?.section.id);
    return score && section ? versionsOf(score, section) : [];
  });
  /** All of them in their order; none where the section is the only one of itself. */
  readonly shown = computed((): readonly ShownVersion[] => {
    const [group, music, present] = [this.group(), this.music(), this.view()?.section.id];
    if (group.length < 2 || !music) return [];
    const names = versionNames(music, group, this.bar());
    return group.map(({ id }) => ({
      id,
      name: names.get(id) ?? '',
      present: id === present,
      places: music.score.order.filter(({ section }) => section === id).length,
    }));
  });
  readonly present = computed(() => this.shown().find(({ present }) => present) ?? null);
  /** How many places play what the place in view plays. */
  readonly places = computed(() => {
    const section = this.view()?.section.id;
    return this.placed().filter((place) => place.section.id === section).length;
  });
  readonly full = computed(() => (this.score()?.sections.length ?? 0) >= LIMITS.sections);

  /** Makes another version of what is heard now; every place that plays the old one plays the new one. */
  copy(): void {
    const [music, score, view] = [this.music(), this.score(), this.view()];
    if (!music || !score || !view || this.undecided.told()) return;
    const made = copyVersion({ ...music, score }, view.section.id, newId);
    const lines = [HARMONY, ...score.parts.map(({ id }) => id)];
    this.revise('make another version', switchVersion(made.score, view.occurrence.id, made.section), {
      takes: made.takes,
      // What was only tried is the new version's: the old one is as it was chosen.
      released: lines.map((line) => ({ section: view.section.id, line })),
    });
    this.sayPresent('made of what is heard');
  }

  /**
   * Lets the place in view, and all that play the same, play another version.
   *
   * @param index  its place among the versions, from 0
   * @param only   true where the other places stay as they are
   */
  switchTo(index: number, only = false): void {
    const [score, view, to] = [this.score(), this.view(), this.group()[index]];
    if (!score || !view || !to) return;
    const next = switchVersion(score, view.occurrence.id, to.id, only);
    if (next === score) return;
    const bars = this.bars();
    if (bars && bars.to > to.bars) this.store.dispatch(SessionActions.barsSelected({ bars: null }));
    // Going back and forth is one step.
    this.revise('switch the version', next, { gesture: `version of ${view.occurrence.id}` });
    this.sayPresent(only ? 'plays here only' : 'plays');
  }

  /** Turns to a section: to a place that plays it, else the first place of its group is made to. */
  turnTo(section: SectionId): void {
    const [score, view] = [this.score(), this.view()];
    const wanted = score?.sections.find(({ id }) => id === section);
    if (!score || !wanted || view?.section.id === section) return;
    const group = new Set(versionsOf(score, wanted).map(({ id }) => id));
    const places = this.placed();
    const playing = places.find((place) => place.section.id === section);
    const here = view && group.has(view.section.id) ? view : undefined;
    const place = playing ?? here ?? places.find((other) => group.has(other.section.id));
    if (!place) return;
    if (!playing) this.revise('switch the version', switchVersion(score, place.occurrence.id, section));
    if (place.occurrence.id !== view?.occurrence.id)
      this.store.dispatch(SessionActions.occurrenceViewed({ occurrence: place.occurrence.id }));
  }

  rename(name: string): void {
    const present = this.present();
    this.naming.set(false);
    if (present) this.revise('name a version', (score) => nameVersion(score, present.id, shortened(name, LIMITS.name)));
  }

  remove(): void {
    const present = this.present();
    if (present) this.revise('take a version out', (score) => removeVersion(score, present.id));
  }

  private sayPresent(what: string): void {
    const [present, section] = [this.present(), this.view()?.section];
    if (present && section) this.news.say(`${section.name}, ${present.name}: ${what}`);
  }

  private revise(
    name: string,
    edit: Score | ((score: Score) => Score),
    more: {
      readonly takes?: readonly Take[];
      readonly released?: readonly { section: SectionId; line: string }[];
      readonly gesture?: string;
    } = {},
  ): void {
    const score = this.score();
    if (!score) return;
    const next = typeof edit === 'function' ? edit(score) : edit;
    const { takes = [], released = [], gesture } = more;
    this.store.dispatch(
      ScoreActions.revised({ name, score: next, takes, released, ...(gesture === undefined ? {} : { gesture }) }),
    );
  }
}
