import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { kinRequest, motifRequest, redraftRequest, type Saying, type Selection } from '@fendro/core/compose/asking';
import type { DraftRequest } from '@fendro/core/compose/draft';
import { passNotes } from '@fendro/core/patterns/pass';
import { missingBars } from '@fendro/core/song/missing';
import { partTake, sectionOf, soundingId, type Music } from '@fendro/core/song/resolve';
import { inDraftingOrder } from '@fendro/core/song/roles';
import {
  ASPECTS,
  HARMONY,
  type Aspect,
  type Kin,
  type LineId,
  type PartId,
  type Section,
  type TakeId,
} from '@fendro/core/song/schema';
import { echoesOf } from '@fendro/core/study/echoes';
import { range } from '@fendro/core/theory/units';
import { Playback } from '../sound/playback';
import { News } from '../store/news';
import { selectBar, selectLine, selectMusic, selectPass, selectSection, selectSong } from '../store/selectors';
import { sessionFeature } from '../store/session';
import { TakeActions } from '../store/song.actions';
import { AuditionDesk } from './audition-desk';
import { CatchDesk } from './catch-desk';
import { DraftRuns } from './draft-runs';
import { SheetDesk } from './sheet-desk';

/** Relatives that are drafted at a time. */
const RELATIVES = 4;
/** How much of a take is drawn anew when it is varied, in %. */
export const SHARES = [10, 25, 40, 60] as const;

/** Ways of crossing two takes, the heard one first. */
export const BLENDS = ['rhythm', 'pitches', 'bars', 'halfway'] as const;
export type Blend = (typeof BLENDS)[number];

/** What a way of crossing asks for: its rhythm, its pitches, its bars in turn with the other's, or what lies between. */
const CROSSES: Readonly<Record<Blend, (heard: TakeId, other: TakeId) => Kin>> = {
  rhythm: (heard, other) => ({ by: 'rhythm and pitches', takes: [heard, other] }),
  pitches: (heard, other) => ({ by: 'rhythm and pitches', takes: [other, heard] }),
  bars: (heard, other) => ({ by: 'bars in turn', takes: [heard, other] }),
  halfway: (heard, other) => ({ by: 'halfway', takes: [heard, other] }),
};

/** Drafting again what is selected and not held, near relatives of a take, and crosses of two. */
@Injectable({ providedIn: 'root' })
export class Redrafting {
  private readonly store = inject(Store);
  private readonly runs = inject(DraftRuns);
  private readonly news = inject(News);
  private readonly sheet = inject(SheetDesk);
  private readonly playback = inject(Playback);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly pass = this.store.selectSignal(selectPass);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly alone = this.store.selectSignal(sessionFeature.selectAlone);
  private readonly bar = this.store.selectSignal(selectBar);
  /** How much of a take is drawn anew when it is varied, in %. */
  readonly share = signal<number>(25);
  /** Whether bars that echo the selected ones are redrafted with them. */
  readonly withEchoes = signal(false);
  private readonly sounding = computed((): TakeId | null => {
    const [music, section] = [this.music(), this.section()];
    return music && section ? soundingId(section, this.line(), music.heard) : null;
  });
  /** True where something of the line in focus can be drafted again. */
  readonly ready = computed(() => this.sounding() !== null);
  /** The bars that say again what the selected ones say. */
  readonly echoes = computed((): readonly number[] => {
    const [music, section, bars] = [this.music(), this.section(), this.sheet.selected()];
    const take = music ? partTake(music.takes, this.sounding()) : null;
    if (!music || !section || !take || !bars) return [];
    return echoesOf(passNotes(music, section, take, this.pass()), barsIn(bars, section), section.bars, this.bar());
  });
  private readonly catching = inject(CatchDesk);
  private readonly audition = inject(AuditionDesk);
  /** The take that the heard one is blended with. */
  readonly partner = this.audition.partner;
  readonly canBlend = computed(() => this.ready() && this.partner() !== null);

  /** Drafts the selected bars of the line in focus again, in all aspects or some; the result is heard. */
  async redraft(aspects: readonly Aspect[] = ASPECTS): Promise<void> {
    const section = this.section();
    if (!section || !this.ready()) return;
    this.catching.standStill();
    const bars = barsIn(this.sheet.bars(), section);
    const all = this.withEchoes() ? [...bars, ...this.echoes()].sort((a, b) => a - b) : bars;
    const line = this.line();
    await this.runs.inTurn(async () => {
      await this.again(section, line, { bars: all, aspects });
      this.playback.playIfStopped();
    });
  }

  /**
   * Drafts the selected bars of several parts again: of those that are heard alone, else of all. Each listens to what came
   * of those before it.
   */
  async redraftParts(): Promise<void> {
    const [section, alone] = [this.section(), this.alone()];
    if (section) await this.parts(section, barsIn(this.sheet.bars(), section), alone.length > 0 ? alone : null);
  }

  /** Drafts all parts of the section again but for what is held. */
  async reshuffle(): Promise<void> {
    const section = this.section();
    if (section) await this.parts(section, range(section.bars), null);
  }

  /** @param only  parts; null is all of them */
  private parts(section: Section, bars: readonly number[], only: readonly PartId[] | null): Promise<void> {
    return this.lines(section, 'parts drafted again', (music, now) =>
      inDraftingOrder(music.score.parts)
        .filter(({ id }) => soundingId(now, id, music.heard) !== null && (only?.includes(id) ?? true))
        .map(({ id }) => [id, bars] as const),
    );
  }

  /** The bars that lines of the section in view were never made for, since it became longer. */
  readonly missing = computed((): ReadonlyMap<LineId, readonly number[]> => {
    const [music, section] = [this.music(), this.section()];
    return music && section ? missingBars(music, section) : new Map<LineId, readonly number[]>();
  });

  /** Drafts the bars that are missing, the chords first; what is there stays. The results are heard. */
  async draftMissing(): Promise<void> {
    const section = this.section();
    if (!section) return;
    await this.lines(section, 'lines go on to the end', (music, now) => {
      const missing = missingBars(music, now);
      const order: readonly LineId[] = [HARMONY, ...inDraftingOrder(music.score.parts).map(({ id }) => id)];
      return order.flatMap((line) => {
        const bars = missing.get(line);
        return bars ? [[line, bars] as const] : [];
      });
    });
  }

  /** Drafts bars of several lines again, each listening to what came of those before it. */
  private lines(
    section: Section,
    done: string,
    wanted: (music: Music, now: Section) => readonly (readonly [LineId, readonly number[]])[],
  ): Promise<void> {
    return this.runs.inTurn(async () => {
      const music = this.music();
      const now = music && sectionOf(music.score, section.id);
      if (!music || !now) return;
      const bars = new Map(wanted(music, now));
      let made = 0;
      await this.runs.inOrder(
        [...bars.keys()].map((line) => ({ section: section.id, line })),
        async ({ line }) => {
          made += await this.again(section, line, { bars: bars.get(line) ?? [], aspects: ASPECTS });
        },
      );
      if (bars.size > 0) this.news.say(`${made} of ${bars.size} ${done}`);
      if (made > 0) this.playback.playIfStopped();
    });
  }

  private async again(section: Section, line: LineId, selection: Selection): Promise<number> {
    const request = this.asked(section, (music, now, seed) => redraftRequest(music, now, line, seed, selection));
    return request ? this.run(section, line, request, 1, 'drafted again') : 0;
  }

  /** Drafts near relatives of the heard take. */
  async vary(): Promise<void> {
    this.catching.standStill();
    const take = this.sounding();
    if (take !== null) await this.kin({ by: 'variation', takes: [take], share: this.share() }, 'varied');
  }

  /** Crosses the heard take with its partner. */
  async blend(by: Blend): Promise<void> {
    const partner = this.partner();
    this.catching.standStill();
    const take = this.sounding();
    if (take === null || partner === null) return;
    await this.kin(CROSSES[by](take, partner), 'blended');
  }

  /** Drafts takes of a part that say a motif; the first is heard. */
  async say(line: LineId, saying: Saying): Promise<void> {
    const section = this.section();
    if (!section) return;
    await this.runs.inTurn(async () => {
      const request = this.asked(section, (music, now, seed) => motifRequest(music, now, line, seed, saying));
      if (request) await this.run(section, line, request, RELATIVES, `says “${saying.motif.name}”`);
      this.playback.playIfStopped();
    });
  }

  private async kin(kin: Kin, done: string): Promise<void> {
    const [section, line] = [this.section(), this.line()];
    if (!section) return;
    await this.runs.inTurn(async () => {
      const request = this.asked(section, (music, now, seed) => kinRequest(music, now, line, seed, kin));
      if (request) await this.run(section, line, request, RELATIVES, done);
      this.playback.playIfStopped();
    });
  }

  /** What is asked of a section as it stands now: it may have changed while this waited for its turn. */
  private asked(
    { id }: Section,
    ask: (music: Music, section: Section, seed: number) => DraftRequest | null,
  ): DraftRequest | null {
    const [music, seed] = [this.music(), this.song().open?.seed];
    const now = music ? sectionOf(music.score, id) : undefined;
    return music && now && seed !== undefined ? ask(music, now, seed) : null;
  }

  /** Drafts and hears the first that comes. @returns how many came */
  private async run(
    section: Section,
    line: LineId,
    request: DraftRequest,
    count: number,
    done: string,
  ): Promise<number> {
    const made = await this.runs.run({
      section,
      line,
      request,
      count,
      take: (take, number) => {
        const place = { take: take.id, section: section.id, line };
        if (number === 0) this.store.dispatch(TakeActions.madeAndHeard({ takes: [take], ...place }));
        else this.store.dispatch(TakeActions.made({ takes: [take] }));
      },
      usedUp,
    });
    if (made > 0) this.news.say(`${this.runs.nameOf(line)} ${done}${made > 1 ? `: ${made} takes` : ''}`);
    return made;
  }
}

const barsIn = ({ from, to }: { readonly from: number; readonly to: number }, { bars }: Section): number[] =>
  range(Math.max(0, Math.min(to, bars) - from)).map((bar) => bar + from);

const usedUp = (found: number): string =>
  found === 0
    ? 'All that is free here has been shown in every way there is. Select more bars, free something, or raise adventure.'
    : `Only ${found} more ${found === 1 ? 'take differs' : 'takes differ'} from all that were shown here.`;
