import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Recut } from '@fendro/core/song/cut';
import { changeSection } from '@fendro/core/song/edit';
import { LIMITS, withEnding } from '@fendro/core/song/limits';
import type { Music } from '@fendro/core/song/resolve';
import type { OccurrenceId, Score, Section, Take } from '@fendro/core/song/schema';
import { metreText, type Metre } from '@fendro/core/theory/metre';
import { newId } from '../store/ids';
import { News } from '../store/news';
import { Notices } from '../store/notices';
import { selectMusic, selectOwnScore, selectView } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { sessionFeature } from '../store/session';
import { Undecided } from './undecided';

/** Fetched when it is wanted: seldom, and never before the page stands. */
const cutting = (): Promise<typeof import('@fendro/core/song/cut')> => import('@fendro/core/song/cut');
type Cutting = Awaited<ReturnType<typeof cutting>>;

/** Sections cut in two, joined, and single bars in a metre of their own. */
@Injectable({ providedIn: 'root' })
export class CutDesk {
  private readonly store = inject(Store);
  private readonly news = inject(News);
  private readonly notices = inject(Notices);
  private readonly undecided = inject(Undecided);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly view = this.store.selectSignal(selectView);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly cursor = this.store.selectSignal(sessionFeature.selectCursor);

  /** The bar that is meant: the first that is selected, else the one that the cursor is on; counted from 0. */
  readonly bar = computed(() => this.bars()?.from ?? this.cursor());
  readonly canCut = computed(() => {
    const section = this.view()?.section;
    return section !== undefined && this.bar() > 0 && this.bar() < section.bars;
  });
  readonly canJoin = computed(() => {
    const [score, view] = [this.ownScore(), this.view()];
    return score !== null && view !== null && score.order.at(-1)?.id !== view.occurrence.id;
  });

  /** The song as it is written: what is only tried is no ground to cut on. */
  private written(): Music | null {
    const [score, music] = [this.ownScore(), this.music()];
    return score && music && !this.undecided.told() ? { ...music, score } : null;
  }

  /** Cuts the section in view before the bar that is meant, wherever it is played. */
  async cut(): Promise<void> {
    const { cutSection } = await cutting();
    const [music, view] = [this.written(), this.view()];
    if (!music || !view || !this.canCut()) return;
    const made = cutSection(music, view.section.id, this.bar(), newId);
    this.revise('cut a section in two', made.score, made.takes, view.occurrence.id);
    this.news.say(`${view.section.name} ends before bar ${this.bar() + 1}, and goes on as a section of its own`);
  }

  /** Joins the place in view with the one after it. */
  async join(): Promise<void> {
    const { joinPlaces, joinProblem } = await cutting();
    const [music, view] = [this.written(), this.view()];
    if (!music || !view) return;
    const problem = joinProblem(music.score, view.occurrence.id);
    const made = problem === null ? joinPlaces(music, view.occurrence.id, newId) : null;
    if (!made) {
      this.notices.say(problem ?? 'These sections cannot be joined.');
      return;
    }
    this.revise('join two sections', made.score, made.takes, view.occurrence.id);
    this.news.say('Joined');
  }

  /** Gives the bar that is meant a metre of its own: it becomes a section of one bar. */
  async measure(metre: Metre): Promise<void> {
    const { cutSection } = await cutting();
    const [music, view, bar] = [this.written(), this.view(), this.bar()];
    if (!music || !view || bar >= view.section.bars) return;
    const alone = apart(music, view.section, bar, cutSection);
    const name = withEnding(view.section.name, ` bar ${bar + 1}`, LIMITS.name);
    const named = changeSection(alone.score, alone.section, { name });
    const sections = named.sections.map((own) =>
      own.id === alone.section ? { ...own, ground: { ...own.ground, metre } } : own,
    );
    const at = named.order.findIndex(({ id }) => id === view.occurrence.id);
    const place = named.order.slice(at).find(({ section }) => section === alone.section) ?? view.occurrence;
    this.revise('give a bar its own metre', { ...named, sections }, alone.takes, place.id);
    this.news.say(`Bar ${bar + 1} in ${metreText(metre)}`);
  }

  private revise(name: string, score: Score, takes: readonly Take[], view: OccurrenceId): void {
    this.store.dispatch(ScoreActions.revised({ name, score, takes, released: [], view }));
  }
}

const byId = (takes: readonly Take[]): Readonly<Record<string, Take>> =>
  Object.fromEntries(takes.map((take) => [take.id, take]));

/** A song in which a bar is a section of its own. */
function apart(music: Music, section: Section, bar: number, cutSection: Cutting['cutSection']): Recut {
  const before = bar === 0 ? null : cutSection(music, section.id, bar, newId);
  const takes = before ? { ...music.takes, ...byId(before.takes) } : music.takes;
  const id = before?.section ?? section.id;
  const score = before?.score ?? music.score;
  if (section.bars - bar === 1) return { score, takes: before?.takes ?? [], section: id };
  const after = cutSection({ ...music, score, takes }, id, 1, newId);
  return { score: after.score, takes: [...(before?.takes ?? []), ...after.takes], section: id };
}
