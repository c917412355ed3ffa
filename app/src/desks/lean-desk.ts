import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { barMovers, briefMovers } from '@fendro/core/lean/brief-movers';
import { HARMONY_MOVERS } from '@fendro/core/lean/harmony-movers';
import { leanSettings } from '@fendro/core/lean/lean-settings';
import { leanable, leant, movedBy, type Movers } from '@fendro/core/lean/moving';
import { patternMovers } from '@fendro/core/lean/pattern-movers';
import { LEANINGS, sayLean, type Leaning } from '@fendro/core/lean/words';
import { stepped } from '@fendro/core/settings/setting';
import { changeBrief, changeHarmonyBrief, leanBrief } from '@fendro/core/song/edit';
import { sectionOf } from '@fendro/core/song/resolve';
import {
  HARMONY,
  MOST_LEANS,
  type Lean,
  type LeanSetting,
  type LineId,
  type Part,
  type Pattern,
  type Role,
  type Score,
  type Section,
} from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { News } from '../store/news';
import { selectOwnScore, selectPart, selectSection } from '../store/selectors';
import { Shelf } from '../store/shelf';
import { ScoreActions } from '../store/song.actions';
import { PatternDesk } from './pattern-desk';

/** What leans: the brief of the part in focus, the pattern by which it goes on, or what the chords are asked for. */
export type LeanTarget = 'brief' | 'pattern' | 'chords';
/** How a word is to lean it: at once, slowly by itself, or by chance. */
export type LeanWay = 'now' | Lean['goes'];

/** Words that moved blink so long, in ms. */
const BLINK = 900;
const NOTHING: ReadonlySet<string> = new Set();
const NO_LEANS: readonly Lean[] = [];
/** How a word that is set to work begins. */
const BEGINNINGS = {
  slowly: { goes: 'slowly', bars: 8, then: 'stays' },
  'by chance': { goes: 'by chance', bars: 2, chance: 50 },
} as const;

/** What a word makes of a pattern, or of the song where it leans what a line is asked for. */
type Leant =
  | { readonly of: 'pattern'; readonly role: Role; readonly pattern: Pattern }
  | { readonly of: 'brief'; readonly line: LineId; readonly change: (score: Score) => Score };

/** Words that move several settings of a brief or of a pattern at once, by hand or by themselves. */
@Injectable({ providedIn: 'root' })
export class LeanDesk {
  private readonly store = inject(Store);
  private readonly news = inject(News);
  private readonly shelf = inject(Shelf);
  private readonly patterns = inject(PatternDesk);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly inFocus = this.store.selectSignal(selectPart);
  private readonly inView = this.store.selectSignal(selectSection);
  /** What has just been leant: settings of the brief, or the pattern as it was before. */
  private readonly blinking = signal<{ readonly ids: ReadonlySet<string>; readonly before: Pattern | null } | null>(
    null,
  );
  /** True while the words that lean a brief are offered. */
  readonly open = signal(false);

  readonly ready = computed(() => this.inFocus() !== null || this.section() !== null);
  /** What a word leans where nothing is said: a part that goes on by itself leans its pattern. */
  readonly target = computed((): LeanTarget => {
    if (this.inFocus() === null) return 'chords';
    return this.patterns.pattern() ? 'pattern' : 'brief';
  });
  /** All words: those that Fendro comes with, and the writer's own. */
  readonly words = computed((): readonly Leaning[] => [...LEANINGS, ...this.shelf.contents().leanings]);

  /** The section in view as the song has it now; null where there is none. */
  private section(): Section | null {
    const [score, id] = [this.score(), this.inView()?.id];
    return score && id !== undefined ? (sectionOf(score, id) ?? null) : null;
  }

  /** The part in focus as the song has it now. */
  private part(): Part | null {
    return this.score()?.parts.find(({ id }) => id === this.inFocus()?.id) ?? null;
  }

  leans(target: LeanTarget): readonly Lean[] {
    if (target === 'chords') return NO_LEANS;
    return (target === 'brief' ? this.part()?.brief.leans : this.patterns.pattern()?.leans) ?? NO_LEANS;
  }

  /** The settings that can be leant. */
  settings(target: LeanTarget): readonly LeanSetting[] {
    const [part, pattern] = [this.part(), this.patterns.pattern()];
    if (target === 'chords') return leanable(HARMONY_MOVERS);
    if (target === 'pattern') return pattern ? leanable(patternMovers(pattern)) : [];
    return part ? leanable(this.movers(part)) : [];
  }

  /** True where a word would move something; by itself a brief leans in what its bars can have. */
  moves(target: LeanTarget, { moves }: Leaning, way: LeanWay): boolean {
    const [part, pattern] = [this.part(), this.patterns.pattern()];
    if (target === 'chords') {
      const section = this.section();
      return way === 'now' && section !== null && movedBy(section.harmonyBrief, moves, HARMONY_MOVERS).length > 0;
    }
    if (target === 'pattern') return pattern !== null && movedBy(pattern, moves, patternMovers(pattern)).length > 0;
    if (!part) return false;
    return movedBy(part.brief, moves, way === 'now' ? this.movers(part) : barMovers(part.role)).length > 0;
  }

  /** The settings of a brief that have just been moved. */
  readonly moved = computed(() => this.blinking()?.ids ?? NOTHING);
  /** The pattern as it was before it has just been leant; null where it has not. */
  readonly before = computed(() => this.blinking()?.before ?? null);

  private movers({ role, instrument }: Part): Movers<Part['brief']> {
    return briefMovers(role, instrumentOf(instrument));
  }

  /** Leans by a word: at once, or from now on by itself. */
  lean(target: LeanTarget, word: Leaning, way: LeanWay): void {
    if (!this.moves(target, word, way)) return;
    if (way === 'now') this.leanNow(target, word);
    else this.setToWork(target, word, way);
  }

  private leanNow(target: LeanTarget, word: Leaning): void {
    const [part, pattern, section] = [this.part(), this.patterns.pattern(), this.section()];
    const next = this.leant(word, target);
    if (!next) return;
    if (next.of === 'pattern') {
      this.patterns.edit(`lean ${word.name}`, () => next.pattern);
      this.blink({ ids: NOTHING, before: pattern });
    } else {
      const ids =
        target === 'chords'
          ? section && movedBy(section.harmonyBrief, word.moves, HARMONY_MOVERS)
          : part && movedBy(part.brief, word.moves, this.movers(part));
      this.change(`lean ${word.name}`, next.change);
      this.blink({ ids: new Set<string>(ids), before: null });
    }
    this.news.say(`Leant ${word.name}`);
  }

  /** What a word would make of a brief or of a pattern at once; null where it moves nothing. */
  leant(word: Leaning, target = this.target()): Leant | null {
    const [part, pattern, section] = [this.part(), this.patterns.pattern(), this.section()];
    const { moves } = word;
    if (!this.moves(target, word, 'now')) return null;
    if (target === 'chords') {
      if (!section) return null;
      const { id, harmonyBrief } = section;
      const leaning = leant(harmonyBrief, moves, 1, HARMONY_MOVERS);
      return { of: 'brief', line: HARMONY, change: (score) => changeHarmonyBrief(score, id, leaning) };
    }
    if (!part) return null;
    if (target === 'pattern')
      return pattern && { of: 'pattern', role: part.role, pattern: leant(pattern, moves, 1, patternMovers(pattern)) };
    const leaning = leant(part.brief, moves, 1, this.movers(part));
    return { of: 'brief', line: part.id, change: (score) => changeBrief(score, part.id, leaning) };
  }

  private setToWork(target: LeanTarget, { name, moves }: Leaning, way: Lean['goes']): void {
    const lean: Lean = { ...BEGINNINGS[way], name, moves };
    this.edit('let it lean', target, (leans) => (leans.length < MOST_LEANS ? [...leans, lean] : leans));
    this.news.say(`It leans ${sayLean(lean)}`);
  }

  /** Why no more words can be set to work; empty where there is room. */
  full(target: LeanTarget): string {
    return this.leans(target).length < MOST_LEANS ? '' : `${MOST_LEANS} at once are the most: take one away first.`;
  }

  set(target: LeanTarget, index: number, id: string, to: (value: string | number) => string | number): void {
    this.edit(
      'set a leaning',
      target,
      (leans) => {
        const lean = leans[index];
        const setting = lean && leanSettings(lean).find((own) => own.id === id);
        const value = setting && to(setting.value);
        return setting && value !== undefined && value !== setting.value
          ? leans.with(index, setting.set(value))
          : leans;
      },
      `${index} ${id}`,
    );
  }

  /** Steps what a leaning's word is about. */
  step(target: LeanTarget, index: number, by: 1 | -1): void {
    const lean = this.leans(target)[index];
    const [first] = lean ? leanSettings(lean) : [];
    if (first) this.set(target, index, first.id, (value) => stepped({ ...first, value }, by)?.value ?? value);
  }

  /** Strikes a leaning out without losing it, or lets it work again. */
  strike(target: LeanTarget, index: number): void {
    this.edit('strike a leaning out', target, (leans) =>
      leans.map((lean, place) => {
        const { off, ...on } = lean;
        return place !== index ? lean : off ? on : { ...lean, off: true };
      }),
    );
    const lean = this.leans(target)[index];
    if (lean) this.news.say(`${sayLean(lean)}: ${lean.off ? 'struck out' : 'works again'}`);
  }

  remove(target: LeanTarget, index: number): void {
    this.edit('take a leaning away', target, (leans) => leans.filter((_, place) => place !== index));
  }

  private edit(
    name: string,
    target: LeanTarget,
    change: (leans: readonly Lean[]) => readonly Lean[],
    kind?: string,
  ): void {
    const leans = this.leans(target);
    const next = change(leans);
    if (next === leans) return;
    if (target !== 'pattern') {
      const id = this.part()?.id;
      if (id !== undefined) this.change(name, (score) => leanBrief(score, id, next), kind && `lean ${id} ${kind}`);
      return;
    }
    this.patterns.edit(
      name,
      ({ leans: _before, ...pattern }) => (next.length === 0 ? pattern : { ...pattern, leans: next }),
      kind,
    );
  }

  private change(name: string, to: (score: Score) => Score, gesture?: string): void {
    const score = this.score();
    if (!score) return;
    const revised = { name, score: to(score), takes: [], released: [] };
    this.store.dispatch(ScoreActions.revised(gesture === undefined ? revised : { ...revised, gesture }));
  }

  private blink(moved: { readonly ids: ReadonlySet<string>; readonly before: Pattern | null }): void {
    this.blinking.set(moved);
    setTimeout(() => {
      if (this.blinking() === moved) this.blinking.set(null);
    }, BLINK);
  }
}
