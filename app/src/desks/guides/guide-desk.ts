import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { addGuides, changeGuide, guidesAreFull, guidesOf, guideStart, removeGuide } from '@fendro/core/song/guides';
import { capitalised, LIMITS, numbered, shortened } from '@fendro/core/song/limits';
import { groundOf } from '@fendro/core/song/ground';
import type { Guide, OccurrenceId, Score } from '@fendro/core/song/schema';
import type { Wave } from '@fendro/core/live/wave';
import type { Ticks } from '@fendro/core/theory/units';
import { readSound } from '../../sound/read-sound';
import { newId } from '../../store/ids';
import { News } from '../../store/news';
import { Notices } from '../../store/notices';
import { selectBar, selectOwnScore, selectPlaced, selectView } from '../../store/selectors';
import { sessionFeature } from '../../store/session';
import { ScoreActions } from '../../store/song.actions';
import { inWords } from '../../ui/in-words';
import { GuideSounds } from './guide-sounds';

/** Recorded sound that is to lie somewhere. */
export interface NewGuide {
  readonly wave: Wave;
  readonly name: string;
  readonly place: OccurrenceId;
  readonly at: Ticks;
}

/** A recording that has so much of the longest one is a whole round. */
const WHOLE = 0.9;

/** The guides of the song: recordings that lie under it, where they lie and how loud they are. */
@Injectable({ providedIn: 'root' })
export class GuideDesk {
  private readonly store = inject(Store);
  private readonly sounds = inject(GuideSounds);
  private readonly news = inject(News);
  private readonly notices = inject(Notices);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly placed = this.store.selectSignal(selectPlaced);
  private readonly view = this.store.selectSignal(selectView);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly bar = this.store.selectSignal(selectBar);
  readonly full = computed(() => {
    const score = this.score();
    return score !== null && guidesAreFull(score);
  });
  readonly rows = computed(() => {
    const score = this.score();
    if (!score) return [];
    return guidesOf(score).map((guide) => {
      const there = this.placed().find(({ occurrence }) => occurrence.id === guide.place);
      return {
        guide,
        start: guideStart(guide, this.placed()),
        section: there?.section ?? null,
        tempo: there ? groundOf(score, there.section).tempo : null,
      };
    });
  });

  /** Tells where the song has no room for another. @returns whether that is so */
  toldFull(): boolean {
    if (this.full()) this.notices.say(`A song holds ${LIMITS.guides} recordings: take one out first.`);
    return this.full();
  }

  /** Lays recordings under the song. The last whole one is heard: where play ended in the middle, that is the one before. */
  async add(news: readonly NewGuide[]): Promise<void> {
    const made: Guide[] = [];
    for (const { wave, name, place, at } of news) {
      const sound = await this.sounds.add(wave);
      const seconds = wave.samples.length / wave.rate;
      made.push({ id: newId('guide'), name, place, at, offset: 0, level: 80, muted: false, seconds, sound });
    }
    const score = this.score();
    if (!score || made.length === 0) return;
    const names = new Set(guidesOf(score).map((guide) => guide.name));
    const longest = Math.max(...made.map(({ seconds }) => seconds));
    const whole = made.findLastIndex(({ seconds }) => seconds > WHOLE * longest);
    const named = made.map((guide, index) => {
      const own = numbered(guide.name, names, LIMITS.name);
      names.add(own);
      return { ...guide, name: own, muted: index !== whole };
    });
    this.revise('lay a guide under the song', addGuides(score, named.reverse()));
  }

  /** Lays a file's sound under the song, from the place in view or the first selected bar on. */
  async addFile(file: File): Promise<void> {
    const view = this.view();
    if (!view || this.toldFull()) return;
    try {
      const wave = await readSound(await file.arrayBuffer());
      const at = (this.bars()?.from ?? 0) * this.bar();
      const name = guideName(file.name);
      await this.add([{ wave, name, place: view.occurrence.id, at }]);
      this.news.say(`${name} lies under the song`);
    } catch (problem) {
      this.notices.say(`${file.name} could not be taken: ${inWords(problem)}`);
    }
  }

  change(guide: Guide, change: Partial<Pick<Guide, 'name' | 'offset' | 'level' | 'muted'>>): void {
    const score = this.score();
    const [what = ''] = Object.keys(change);
    const gesture = what === 'level' || what === 'offset' ? `${what} ${guide.id}` : undefined;
    if (score) this.revise(`change the ${what} of ${guide.name}`, changeGuide(score, guide.id, change), gesture);
  }

  /** Puts a guide to the place in view, from the first selected bar on. */
  bringHere(guide: Guide): void {
    const [score, view] = [this.score(), this.view()];
    if (!score || !view) return;
    const at = (this.bars()?.from ?? 0) * this.bar();
    this.revise(`move ${guide.name}`, changeGuide(score, guide.id, { place: view.occurrence.id, at }));
  }

  remove(guide: Guide): void {
    const score = this.score();
    if (score) this.revise(`take ${guide.name} out`, removeGuide(score, guide.id));
    this.news.say(`${capitalised(guide.name)} was taken out`);
  }

  private revise(name: string, score: Score, gesture?: string): void {
    this.store.dispatch(
      ScoreActions.revised({ name, score, takes: [], released: [], ...(gesture === undefined ? {} : { gesture }) }),
    );
  }
}

/** What the recording of a file is called. */
export const guideName = (file: string): string => shortened(file.replace(/\.\w+$/, '').trim() || 'Guide', LIMITS.name);
