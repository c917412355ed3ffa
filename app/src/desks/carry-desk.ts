import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { overOf, patternNotes } from '@fendro/core/patterns/pass';
import { inReachOf } from '@fendro/core/patterns/pattern-edits';
import { groundOf } from '@fendro/core/song/ground';
import { harmonyTake, partTake, sectionTicks, soundingId, type Music } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import {
  HARMONY,
  type LineId,
  type Part,
  type PartId,
  type PartTake,
  type Pattern,
  type Section,
  type SectionId,
  type Take,
} from '@fendro/core/song/schema';
import { patternTake } from '@fendro/core/song/take';
import { nameApart } from '@fendro/core/song/version-words';
import { placedSections } from '@fendro/core/song/versions';
import { Playback } from '../sound/playback';
import { newId } from '../store/ids';
import { News } from '../store/news';
import { Notices } from '../store/notices';
import { selectLine, selectMusic, selectPart, selectSection, selectSong } from '../store/selectors';
import { SessionActions, type BarSpan } from '../store/session';
import { TakeActions } from '../store/song.actions';
import { listBars } from '../ui/say-bars';
import { SheetDesk } from './sheet-desk';
import { TakeView } from './take-view';
import { Undecided } from './undecided';
import { VersionsDesk } from './versions-desk';

/** Where a take can be carried to. */
export interface CarryPlace {
  readonly id: string;
  readonly name: string;
}

/** Carrying what is heard of a line, or the selected bars of it, to another section or part; it is heard there at once. */
@Injectable({ providedIn: 'root' })
export class CarryDesk {
  private readonly store = inject(Store);
  private readonly sheet = inject(SheetDesk);
  private readonly view = inject(TakeView);
  private readonly versions = inject(VersionsDesk);
  private readonly playback = inject(Playback);
  private readonly notices = inject(Notices);
  private readonly news = inject(News);
  private readonly undecided = inject(Undecided);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly part = this.store.selectSignal(selectPart);
  /** Why it could not be carried, in words. */
  readonly problem = signal<string | null>(null);
  private readonly sounding = computed((): Take | null => {
    const [music, section] = [this.music(), this.section()];
    const id = music && section ? soundingId(section, this.line(), music.heard) : null;
    return music ? (partTake(music.takes, id) ?? harmonyTake(music.takes, id)) : null;
  });
  readonly ready = computed(() => this.sounding() !== null);
  /** The bars that are carried; null is all of it, as always of chords. */
  readonly bars = computed((): BarSpan | null => (this.part() ? this.sheet.selected() : null));
  /** What would be carried, in words. */
  readonly what = computed(() => {
    const [music, section, take, bars] = [this.music(), this.section(), this.sounding(), this.bars()];
    if (!music || !section || !take) return '';
    const line = this.part()?.name ?? 'Chords';
    const where = bars ? `, ${listBars(barsOf(bars))}` : '';
    return `${line} of ${nameApart(music, section)}, ${this.view.nameOf(take.id)}${where}`;
  });
  readonly sections = computed((): readonly CarryPlace[] => {
    const music = this.music();
    return music ? placedSections(music.score).map((own) => ({ id: own.id, name: nameApart(music, own) })) : [];
  });
  /** The parts that could play it, its own first; the chords go to chords. */
  readonly lines = computed((): readonly CarryPlace[] => {
    const [music, part] = [this.music(), this.part()];
    if (!music || !part) return [{ id: HARMONY, name: 'Chords' }];
    const others = music.score.parts.filter(
      ({ id, role }) => id !== part.id && isDrumRole(role) === isDrumRole(part.role),
    );
    return [part, ...others].map(({ id, name }) => ({ id, name }));
  });

  /**
   * Carries it, turns to where it came, and lets it be heard there.
   *
   * @param bar  the bar that chosen bars begin at, counted from 0
   * @returns false where it could not be; `problem` says why
   */
  async carry(to: SectionId, line: LineId, bar: number): Promise<boolean> {
    const target = this.music()?.score.sections.find(({ id }) => id === to);
    if (this.undecided.told()) return false;
    const asker = this.song().open?.id;
    const made = target ? await this.made(target, line, bar) : null;
    // Another song may have been opened meanwhile: it did not ask for anything.
    if (asker !== this.song().open?.id) return false;
    this.problem.set(made === null || typeof made === 'string' ? made : null);
    if (!target || made === null || typeof made === 'string') return false;
    const what = this.what();
    this.store.dispatch(TakeActions.madeAndHeard({ takes: [made], take: made.id, section: to, line }));
    this.turnTo(to, line);
    this.news.say(`Carried: ${what}`);
    this.notices.say(`${what} is heard here now, fitted to these chords. Choose it, or go back with Escape.`);
    this.playback.playIfStopped();
    return true;
  }

  private turnTo(section: SectionId, line: LineId): void {
    this.versions.turnTo(section);
    this.store.dispatch(SessionActions.lineFocused({ line }));
  }

  /** The take that it becomes there, or why it cannot. */
  private async made(target: Section, line: PartId, bar: number): Promise<Take | string | null> {
    const [music, section, take, part] = [this.music(), this.section(), this.sounding(), this.part()];
    if (!music || !section || !take) return null;
    const [bars, what] = [this.bars(), this.what()];
    // Fetched when it is wanted: seldom, and never before the page stands.
    const { carriedChords, carriedTake } = await import('@fendro/core/compose/carry');
    if (take.of === 'harmony') return carriedChords(music, section, take, target, newId('take'), what);
    const into = music.score.parts.find(({ id }) => id === line);
    if (!part || !into) return null;
    // What goes on by itself goes on there, in that part's register and over those chords.
    if (take.pattern && !bars) return this.goingOn(music, take, take.pattern, target, into);
    const source = { section, part, take, bars };
    const carried = carriedTake(music, source, { section: target, part: into, bar }, newId('take'), what);
    return carried.ok ? carried.take : carried.reason;
  }

  private goingOn(music: Music, take: PartTake, pattern: Pattern, target: Section, into: Part): PartTake {
    const there = into.id === take.part ? pattern : inReachOf(pattern, into.brief);
    return patternTake(
      { id: newId('take'), section: target.id, length: sectionTicks(music.score, target) },
      into,
      there,
      patternNotes(there, overOf(music, target, 0)),
      { harmony: soundingId(target, HARMONY, music.heard), ground: groundOf(music.score, target), before: null },
    );
  }
}

const barsOf = ({ from, to }: BarSpan): number[] => Array.from({ length: to - from }, (_, at) => at + from);
