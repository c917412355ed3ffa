import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { passNotes } from '@fendro/core/patterns/pass';
import { nameOf, verdictOf } from '@fendro/core/song/edit';
import { bandAt, lineOf } from '@fendro/core/song/logbook';
import { own } from '@fendro/core/song/look-up';
import { sectionOf } from '@fendro/core/song/resolve';
import {
  HARMONY,
  type LineId,
  type Note,
  type Part,
  type PartTake,
  type SectionId,
  type Take,
  type TakeId,
} from '@fendro/core/song/schema';
import { wholeName } from '@fendro/core/song/version-words';
import { takeNumbers } from '@fendro/core/song/take-numbers';
import { Playback } from '../sound/playback';
import { News } from '../store/news';
import { selectMusic, selectScore, selectSong } from '../store/selectors';
import { SessionActions } from '../store/session';
import { TakeActions } from '../store/song.actions';
import { madeOf } from '../ui/take-words';
import { sayPass } from '../ui/say-bars';
import { sayMoment } from '../ui/say-moment';
import { CatchDesk } from './catch-desk';
import { VersionsDesk } from './versions-desk';
import { wordsIn } from '../ui/words';

/** One line of the logbook, as it is read. */
export interface LogEntry {
  /** Its place in the logbook, counted from the first that was heard. */
  readonly place: number;
  readonly take: Take;
  readonly section: SectionId;
  readonly line: LineId;
  /** Null for the chords, and for a part that is gone. */
  readonly part: Part | null;
  /** When, where, who and what, in words. */
  readonly when: string;
  readonly where: string;
  readonly who: string;
  readonly what: string;
  /** Of what goes on by itself, which pass it was; null where nothing is said. */
  readonly pass: number | null;
  /** False where its section or part is gone, so that it has no place to sound in. */
  readonly canSound: boolean;
}

/** All that was heard, the newest first: looked through by words, heard again, and brought back with its company. */
@Injectable({ providedIn: 'root' })
export class LogbookDesk {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly news = inject(News);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly versions = inject(VersionsDesk);
  private readonly catching = inject(CatchDesk);
  /** Words that a line must have, all of them. */
  readonly query = signal('');

  /** What the takes of every line are called by. */
  private readonly numbers = computed((): ReadonlyMap<TakeId, number> => {
    const lines = new Map<string, Take[]>();
    for (const take of Object.values(this.song().takes)) {
      const name = `${take.section} ${lineOf(take)}`;
      const line = lines.get(name) ?? [];
      line.push(take);
      lines.set(name, line);
    }
    return new Map([...lines.values()].flatMap((line) => [...takeNumbers(line)]));
  });

  private readonly entries = computed((): readonly LogEntry[] => {
    const { heard, takes } = this.song();
    const music = this.music();
    if (!music) return [];
    const { score } = music;
    const parts = new Map(score.parts.map((part) => [part.id, part]));
    const names = new Map(score.sections.map((section) => [section.id, wholeName(music, section)]));
    const name = (id: TakeId): string => {
      const number = this.numbers().get(id);
      return nameOf(score, id) ?? (number === undefined ? 'an earlier take' : `take ${number}`);
    };
    return heard
      .flatMap(({ take: id, section, at, pass = null }, place): LogEntry[] => {
        const take = own(takes, id);
        if (!take) return [];
        const line = lineOf(take);
        const part = parts.get(line) ?? null;
        const there = sectionOf(score, section);
        const verdict = verdictOf(score, id);
        const made = madeOf(take, name) || take.origin.how;
        const which = pass === null ? [] : [sayPass(pass)];
        const what = [`${name(id)}: ${made}`, ...which, ...(verdict ? [verdict] : [])].join(', ');
        return [
          {
            place,
            take,
            section,
            line,
            part,
            when: at === 0 ? '' : sayMoment(at),
            where: names.get(section) ?? 'a section that is gone',
            who: line === HARMONY ? 'Chords' : (part?.name ?? 'a part that is gone'),
            what,
            pass,
            canSound: there !== undefined && (line === HARMONY || part !== null),
          },
        ];
      })
      .reverse();
  });

  readonly found = computed((): readonly LogEntry[] => {
    const words = wordsIn(this.query());
    if (words.length === 0) return this.entries();
    return this.entries().filter(({ when, where, who, what }) => {
      const text = `${when} ${where} ${who} ${what}`.toLowerCase();
      return words.every((word) => text.includes(word));
    });
  });
  readonly count = computed(() => this.entries().length);

  /** Hears a take of the logbook in its section, of what goes on by itself that very pass; all else stays as it is. */
  hear(entry: LogEntry): void {
    const { take, section, line, canSound } = entry;
    if (!canSound) return;
    this.show(section, line);
    const takes = this.passOf(entry);
    const band = Object.fromEntries(takes.map(({ part, id }) => [part, id]));
    if (takes.length > 0) this.store.dispatch(TakeActions.bandHeard({ section, band, takes }));
    else this.store.dispatch(TakeActions.heard({ take: take.id, section, line }));
    this.playback.playIfStopped();
  }

  /** The notes of a line of the logbook, for its picture: of a pass, over the chords that sound now. */
  notesOf({ take, pass, section: id }: LogEntry): readonly Note[] {
    const music = this.music();
    const section = music && sectionOf(music.score, id);
    if (take.of !== 'part') return [];
    return section && pass !== null ? passNotes(music, section, take, pass) : take.notes;
  }

  /** Keeps a pass of the logbook as a take. */
  catch(entry: LogEntry): void {
    if (entry.take.of === 'part') this.catching.keep(this.passOf(entry), entry.take);
  }

  /** True where a line is a pass that can be caught. */
  readonly canCatch = ({ pass, take, canSound }: LogEntry): boolean => canSound && pass !== null && take.of === 'part';

  /** The pass that a line of the logbook means, as it sounded over the chords of that moment: none, or a take a part. */
  private passOf(entry: LogEntry): readonly PartTake[] {
    const { pass, take, place } = entry;
    const music = this.music();
    const section = music && sectionOf(music.score, entry.section);
    if (!section || pass === null || take.of !== 'part') return [];
    const { heard, takes } = this.song();
    return this.catching.made(music, { section, take, pass, band: bandAt(heard, takes, place) });
  }

  /** Hears the whole band of a section as it sounded at a moment. */
  restore({ place, section, line, canSound }: LogEntry): void {
    const score = this.score();
    const { heard, takes } = this.song();
    if (!score || !canSound) return;
    const lines = new Set<LineId>([HARMONY, ...score.parts.map(({ id }) => id)]);
    const band = Object.fromEntries(
      Object.entries(bandAt(heard, takes, place)).flatMap(([of, id]) =>
        id !== null && lines.has(of) && own(takes, id) ? [[of, id]] : [],
      ),
    );
    this.show(section, line);
    this.store.dispatch(TakeActions.bandHeard({ section, band }));
    this.news.say(`The band sounds as it did then: ${Object.keys(band).length} lines`);
    this.playback.playIfStopped();
  }

  /** Turns to a section and a line of it. */
  private show(section: SectionId, line: LineId): void {
    this.versions.turnTo(section);
    this.store.dispatch(SessionActions.lineFocused({ line }));
  }
}
