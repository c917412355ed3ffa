import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { isOwn, liftPlace, plainPlace, restsIn, tellPlace, toggleRest } from '@fendro/core/song/place';
import { playsOf, withPlays } from '@fendro/core/song/plays';
import { LARGEST_LIFT, type Score } from '@fendro/core/song/schema';
import { range } from '@fendro/core/theory/units';
import { newId } from '../store/ids';
import { News } from '../store/news';
import { selectOwnScore, selectPart, selectView } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { sessionFeature } from '../store/session';

/** What is otherwise in the place in view than in the other places of its section: its height, and who rests. */
@Injectable({ providedIn: 'root' })
export class PlaceDesk {
  private readonly store = inject(Store);
  private readonly news = inject(News);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly view = this.store.selectSignal(selectView);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly place = computed(() => this.view()?.occurrence ?? null);

  readonly isOwn = computed(() => {
    const place = this.place();
    return place !== null && isOwn(place);
  });
  readonly told = computed((): readonly string[] => {
    const [place, score] = [this.place(), this.score()];
    return place && score ? tellPlace(place, score.parts) : [];
  });
  /** The bars that a part would rest in: those that are selected, else all. */
  private readonly meant = computed((): readonly number[] => {
    const [view, bars] = [this.view(), this.bars()];
    const { from, to } = bars ?? { from: 0, to: view?.section.bars ?? 0 };
    return range(Math.max(0, Math.min(to, view?.section.bars ?? 0) - from)).map((bar) => bar + from);
  });
  readonly canRest = computed(() => this.place() !== null && this.part() !== null && this.meant().length > 0);
  readonly rests = computed(() => {
    const [place, part] = [this.place(), this.part()];
    return place !== null && part !== null && restsIn(place, part.id, this.meant());
  });

  canLift(by: number): boolean {
    const place = this.place();
    return place !== null && Math.abs((place.lift ?? 0) + by) <= LARGEST_LIFT;
  }

  lift(by: number): void {
    const [score, place] = [this.score(), this.place()];
    if (!score || !place || !this.canLift(by)) return;
    const lift = (place.lift ?? 0) + by;
    this.revise('lift a place', liftPlace(score, place.id, lift), `lift ${place.id}`);
    this.news.say(lift === 0 ? 'As high as its section' : (this.told()[0] ?? ''));
  }

  /** Lets the part in focus rest in the selected bars of this place, or play there again. */
  toggleRest(): void {
    const [score, place, part] = [this.score(), this.place(), this.part()];
    if (!score || !place || !part || !this.canRest()) return;
    const name = this.rests() ? 'play again in one place' : 'rest in one place';
    this.revise(name, toggleRest(score, place.id, part.id, this.meant()));
    this.news.say(this.told().find((text) => text.includes(part.name)) ?? `${part.name} plays here`);
  }

  /** How often the section plays in a row here. */
  readonly plays = computed(() => {
    const [place, score] = [this.place(), this.score()];
    return place && score ? playsOf(score, place.id).length : 1;
  });

  /** Lets the section play so often in a row here. */
  play(times: number): void {
    const [score, place] = [this.score(), this.place()];
    if (!score || !place) return;
    this.revise(
      'play a section so often',
      withPlays(score, place.id, times, () => newId('occurrence')),
    );
    this.news.say(this.plays() === 1 ? 'Plays once' : `Plays ${this.plays()} times in a row`);
  }

  /** Makes the place as its section is everywhere else. */
  plain(): void {
    const [score, place] = [this.score(), this.place()];
    if (score && place) this.revise('make a place plain again', plainPlace(score, place.id));
    this.news.say('As everywhere else');
  }

  private revise(name: string, score: Score, gesture?: string): void {
    this.store.dispatch(
      ScoreActions.revised({ name, score, takes: [], released: [], ...(gesture === undefined ? {} : { gesture }) }),
    );
  }
}
