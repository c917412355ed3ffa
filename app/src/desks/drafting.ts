import { inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { requestFor } from '@fendro/core/compose/asking';
import { songLines, withHook, type SongLine } from '@fendro/core/compose/whole-song';
import { soundingId } from '@fendro/core/song/resolve';
import { inDraftingOrder } from '@fendro/core/song/roles';
import { HARMONY, type LineId, type PartId, type SectionId, type Take } from '@fendro/core/song/schema';
import { newId } from '../store/ids';
import { News } from '../store/news';
import {
  selectHeard,
  selectLine,
  selectMusic,
  selectOwnScore,
  selectScore,
  selectSection,
  selectSong,
  selectTakes,
} from '../store/selectors';
import { ScoreActions, TakeActions } from '../store/song.actions';
import { DraftRuns } from './draft-runs';
import { HarmonyDesk } from './harmony-desk';

/** Takes drafted at a time; as many as the bench shows at once. */
export const TAKES_AT_A_TIME = 8;
/** Takes of every line where a whole song is drafted: enough to choose from, and there at once. */
const TAKES_OF_A_SONG = 2;

/** Drafts takes of a line, of a section's whole band or of a whole song; the first one is heard. */
@Injectable({ providedIn: 'root' })
export class Drafting {
  private readonly store = inject(Store);
  private readonly runs = inject(DraftRuns);
  private readonly news = inject(News);
  private readonly desk = inject(HarmonyDesk);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  /** Share of a whole song that is drafted, 0–1; null while none is. */
  readonly whole = signal<number | null>(null);

  /** Drafts takes of the line in focus. */
  draftInFocus(): void {
    const section = this.section();
    if (section) void this.draft(section.id, this.line());
  }

  /**
   * Drafts more takes of one line of a section.
   *
   * @param gesture  what the first take of an empty line is one step of undo with
   */
  async draft(section: SectionId, line: LineId, count = TAKES_AT_A_TIME, gesture = gestureNow()): Promise<void> {
    await this.runs.alone(() => this.draftLine(section, line, count, gesture));
  }

  /** Drafts every line of a section: the chords first when there are none, then each part to them. */
  async draftBand(section: SectionId, count = TAKES_AT_A_TIME): Promise<void> {
    const found = this.score()?.sections.find(({ id }) => id === section);
    if (!found) return;
    const order = inDraftingOrder(this.score()?.parts ?? []).map(({ id }) => id);
    if (soundingId(found, HARMONY, this.heard()) === null) order.unshift(HARMONY);
    const lines = order.map((line): SongLine => ({ section, line }));
    const gesture = gestureNow();
    await this.runs.alone(() =>
      this.runs.inOrder(lines, (line) => this.draftLine(line.section, line.line, count, gesture)),
    );
  }

  /**
   * Drafts a whole song of some of its sections: chords and every part, the one that states the hook first; what it
   * begins with is remembered before the others are drafted. First takes of empty lines are one step of undo together.
   *
   * @param gesture  a name for that step
   * @returns whether all of it was drafted
   */
  async draftSong(sections: ReadonlySet<SectionId>, gesture = gestureNow()): Promise<boolean> {
    const score = this.score();
    return score !== null && this.draftLines(songLines(score, sections), gesture, 'The song is drafted');
  }

  /**
   * Drafts some parts in every section, and chords where a section has none, beside what is there: as one step of undo.
   *
   * @returns whether all of it was drafted
   */
  async draftParts(parts: ReadonlySet<PartId>): Promise<boolean> {
    const score = this.score();
    if (!score) return false;
    const bare = new Set(
      score.sections.filter((own) => soundingId(own, HARMONY, this.heard()) === null).map(({ id }) => id),
    );
    const lines = songLines(score, new Set(score.sections.map(({ id }) => id))).filter(({ section, line }) =>
      line === HARMONY ? bare.has(section) : parts.has(line),
    );
    return this.draftLines(lines, gestureNow(), 'The band is drafted');
  }

  private async draftLines(lines: readonly SongLine[], gesture: string, done: string): Promise<boolean> {
    const asker = this.runs.open();
    const draft = async ({ section, line }: SongLine, index: number): Promise<void> => {
      this.whole.set(index / lines.length);
      await this.draftLine(section, line, TAKES_OF_A_SONG, gesture);
      if (asker === this.runs.open()) this.rememberHook(section, line, gesture);
    };
    const began = await this.runs.alone(() =>
      this.runs.inOrder(lines, draft).finally(() => {
        this.whole.set(null);
      }),
    );
    if (!began || asker !== this.runs.open()) return false;
    const stopped = this.runs.wasStopped();
    this.news.say(stopped ? 'Drafting stopped' : done);
    return !stopped;
  }

  /** What the first melody of a song begins with is remembered, so that its other sections can say it too. */
  private rememberHook(section: SectionId, line: LineId, gesture: string): void {
    const score = this.ownScore();
    const found = score?.sections.find(({ id }) => id === section);
    const take = found ? soundingId(found, line, this.heard()) : null;
    if (!score || take === null) return;
    const hooked = withHook(score, this.takes(), take, newId('motif'));
    if (hooked !== score)
      this.store.dispatch(
        ScoreActions.revised({ name: 'draft the song', score: hooked, takes: [], released: [], gesture }),
      );
  }

  /** @param gesture  first takes of empty lines that come in one gesture are one step of undo */
  private async draftLine(sectionId: SectionId, line: LineId, count: number, gesture: string): Promise<void> {
    const section = this.score()?.sections.find(({ id }) => id === sectionId);
    const [music, seed] = [this.music(), this.song().open?.seed];
    const request = section && music && seed !== undefined ? requestFor(music, section, line, seed) : null;
    if (!section || !request) return;
    const made = await this.runs.run({
      section,
      line,
      request,
      count,
      take: (take, number) => {
        this.add(take, number === 0, gesture);
      },
      usedUp,
    });
    if (made > 0) this.news.say(`${made} takes drafted for ${this.runs.nameOf(line)}`);
  }

  /** The first take of a line that has nothing becomes the song's, else it is heard; the others join the list. */
  private add(take: Take, first: boolean, gesture: string): void {
    const section = this.score()?.sections.find(({ id }) => id === take.section);
    const line = take.of === 'harmony' ? HARMONY : take.part;
    if (first && section && soundingId(section, line, this.heard()) === null) {
      this.desk.adopt(take, gesture);
      return;
    }
    this.store.dispatch(TakeActions.made({ takes: [take] }));
    if (first) this.store.dispatch(TakeActions.heard({ take: take.id, section: take.section, line }));
  }
}

/** A name for one press of a button. */
const gestureNow = (): string => `draft ${crypto.randomUUID()}`;

const usedUp = (found: number): string =>
  found === 0
    ? 'Every take that this brief allows has been shown. Change a word of it, or raise adventure.'
    : `Only ${found} more ${found === 1 ? 'take differs' : 'takes differ'} from all that were shown. ` +
      'Change a word of the brief for others.';
