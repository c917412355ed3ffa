import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { passNotes } from '@fendro/core/patterns/pass';
import { chooseMadeOf, remark } from '@fendro/core/song/edit';
import { groundOf } from '@fendro/core/song/ground';
import { capitalised, listed } from '@fendro/core/song/limits';
import type { Band } from '@fendro/core/song/logbook';
import { harmonyTake, partTake, soundingId, type Music } from '@fendro/core/song/resolve';
import {
  HARMONY,
  type LineId,
  type Note,
  type Part,
  type PartTake,
  type Score,
  type Section,
} from '@fendro/core/song/schema';
import { withChoices } from '@fendro/core/song/section';
import { behindDealing, behindTreatments, caughtTake } from '@fendro/core/song/take';
import { dealtTogether, handsOf } from '@fendro/core/sounding/dealt';
import { sounds } from '@fendro/core/sounding/strokes';
import { writtenNotes } from '@fendro/core/sounding/written';
import { isTreated, treatedNotes } from '@fendro/core/treat/treated';
import { newId } from '../store/ids';
import { News } from '../store/news';
import { Notices } from '../store/notices';
import { selectMusic, selectOwnScore, selectPart, selectPass, selectSection } from '../store/selectors';
import { ScoreActions, TakeActions } from '../store/song.actions';
import { sayPass } from '../ui/say-bars';
import { TakeEdits } from './take-edits';
import { TakeView } from './take-view';
import { Undecided } from './undecided';

/** What sounded in a pass, note for note, without what chance left out. */
const soundedNotes = (line: LineId, notes: readonly Note[], pass: number): readonly Note[] =>
  notes.filter((note) => sounds(note, line, pass)).map(({ chance: _chance, ...note }) => note);

/** What a take says besides who it is: two that say the same of the same section are one. */
const saidOf = ({ section, part, origin, over, notes, treated, dealt }: PartTake): string =>
  JSON.stringify([section, part, origin, over, notes, treated, dealt]);

const sameTake = (a: PartTake, b: PartTake): boolean =>
  a.origin.how === b.origin.how && a.notes.length === b.notes.length && saidOf(a) === saidOf(b);

/** A take in a pass of its section, with the band of that moment; the one that sounds now where nothing is said. */
export interface SoundedPass {
  readonly section: Section;
  readonly take: PartTake;
  readonly pass: number;
  readonly band?: Band;
}

/** A section and its music at a moment, whatever sounds there now. */
function thatMoment(music: Music, { section, take, band }: SoundedPass): { music: Music; section: Section } {
  const lines = [HARMONY, ...music.score.parts.map(({ id }) => id)];
  const { [section.id]: now = {}, ...heard } = music.heard;
  if (!band)
    return { music: { ...music, heard: { ...heard, [section.id]: { ...now, [take.part]: take.id } } }, section };
  const then = lines.map((line) => [line, band[line] ?? null] as const);
  return { music: { ...music, heard }, section: withChoices(section, [...then, [take.part, take.id]]) };
}

/** Catching: what just sounded becomes takes, note for note, while what made it goes on. */
@Injectable({ providedIn: 'root' })
export class CatchDesk {
  private readonly store = inject(Store);
  private readonly edits = inject(TakeEdits);
  private readonly view = inject(TakeView);
  private readonly undecided = inject(Undecided);
  private readonly news = inject(News);
  private readonly notices = inject(Notices);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  /** Which pass of the section in view sounded last. */
  readonly pass = this.store.selectSignal(selectPass);

  /** The take whose pass is meant: the one in focus, or one that is dealt to the part in focus. */
  private readonly source = computed((): PartTake | null => {
    const [music, section, part, take] = [this.music(), this.section(), this.part(), this.edits.take()];
    if (take || !music || !section || !part) return take;
    const from = music.score.parts.find((other) => handsOf(music, section, other).includes(part));
    return from ? partTake(music.takes, soundingId(section, from.id, music.heard)) : null;
  });
  /** True where the line in focus sounds otherwise than it is written, or otherwise from pass to pass. */
  readonly ready = computed(() => {
    const [take, music, section] = [this.source(), this.music(), this.section()];
    if (!take || !music || !section) return false;
    const chance = take.notes.some((note) => note.chance !== undefined);
    return (
      take.pattern !== undefined ||
      chance ||
      isTreated(this.partOf(take), take) ||
      this.players(music, section, take).length > 1
    );
  });

  private partOf(take: PartTake): Part | undefined {
    return this.music()?.score.parts.find(({ id }) => id === take.part);
  }

  /** The parts among which what a take sounds is dealt out in a section; its own alone where nothing is dealt. */
  private players(music: Music, section: Section, take: PartTake): readonly Part[] {
    const part = music.score.parts.find(({ id }) => id === take.part);
    if (!part) return [];
    const together = dealtTogether(part, music.score.parts);
    return together.some((from) => handsOf(music, section, from).length > 0) ? together : [part];
  }

  /** Catches what the line in focus sounded in its last pass. */
  catchLast(): void {
    const [music, section, take] = [this.music(), this.section(), this.source()];
    if (!this.ready() || !music || !section || !take) return;
    this.keep(this.made(music, { section, take, pass: this.pass() }), take);
  }

  /** Lets the line in focus play what it sounded in its last pass as notes, which treatments and dealing pass by. */
  write(): void {
    const [score, music, section, take] = [this.ownScore(), this.music(), this.section(), this.source()];
    if (this.undecided.told() || !score || !music || !section || !take) return;
    const takes = this.made(music, { section, take, pass: this.pass() });
    const chosen = (now: Score, { id, part, origin }: PartTake): Score =>
      chooseMadeOf(now, section.id, part, origin.parents[0] ?? null, id);
    this.store.dispatch(
      ScoreActions.revised({
        name: 'write treatments into notes',
        score: takes.reduce(chosen, score),
        takes,
        released: takes.map(({ part }) => ({ section: section.id, line: part })),
      }),
    );
    const [only, ...others] = takes;
    if (only && others.length === 0)
      this.notices.say(
        `${this.view.nameOf(only.id)} has them as ${only.notes.length} notes. The part’s treatments stay.`,
      );
    else this.notices.say(`${this.namesOf(takes)} have their shares as notes. The dealing stays for other takes.`);
  }

  /**
   * Where the line in focus goes on by itself, its last pass is heard in its place from here on: what is held of it, or
   * drafted from it, are the notes that sounded, before the treatments of the part: what is drafted goes through those too.
   *
   * @returns null where nothing went on by itself
   */
  standStill(): PartTake | null {
    const [music, section, take] = [this.music(), this.section(), this.edits.take()];
    if (!take?.pattern || !music || !section || this.undecided.told()) return null;
    const sounded = { section, take, pass: this.pass() };
    const pass = this.known(music, this.caught(music, sounded, passNotes(music, section, take, sounded.pass)));
    const place = { take: pass.id, section: section.id, line: take.part };
    this.store.dispatch(TakeActions.madeAndHeard({ takes: [pass], ...place }));
    this.news.say(`${capitalised(sayPass(this.pass()))} of ${this.view.nameOf(take.id)} stands still`);
    return pass;
  }

  /**
   * What a take sounded in a pass, as a take of its own; where it was dealt out, one for each part that played. Those
   * that were made of the same before are taken again.
   *
   * @returns the take of the part itself first, where it played
   */
  made(music: Music, sounded: SoundedPass): readonly PartTake[] {
    const { music: then, section } = thatMoment(music, sounded);
    const there = { ...sounded, section };
    const { take, pass } = sounded;
    const players = this.players(then, section, take);
    if (players.length > 1) return this.shares(then, there, players).map((share) => this.known(music, share));
    const part = this.partOf(take);
    const notes = passNotes(then, section, take, pass);
    if (!isTreated(part, take)) return [this.known(music, this.caught(then, there, notes))];
    const treated = treatedNotes(notes, take, part, { music: then, section, pass });
    return [this.known(music, behindTreatments(this.caught(then, there, treated)))];
  }

  /** What each part played of what was dealt out, and of its own. */
  private shares(then: Music, sounded: SoundedPass, players: readonly Part[]): readonly PartTake[] {
    const { section, take, pass } = sounded;
    const first = (part: Part): number => (part.id === take.part ? 0 : 1);
    return [...players]
      .sort((a, b) => first(a) - first(b))
      .flatMap((part): PartTake[] => {
        const own = partTake(then.takes, soundingId(section, part.id, then.heard));
        const notes = writtenNotes(then, section, part.id, pass);
        if (!own && notes.length === 0) return [];
        return [behindDealing(this.caught(then, { ...sounded, take: own ?? take }, notes, part.id), part)];
      });
  }

  /** A take of what sounded in a pass. */
  private caught(
    then: Music,
    { section, take, pass }: SoundedPass,
    notes: readonly Note[],
    line: LineId = take.part,
  ): PartTake {
    return caughtTake(newId('take'), take, soundedNotes(line, notes, pass), {
      from: sayPass(pass),
      harmony: harmonyTake(then.takes, soundingId(section, HARMONY, then.heard))?.id ?? null,
      ground: groundOf(then.score, section),
    });
  }

  private known(music: Music, made: PartTake): PartTake {
    const known = Object.values(music.takes).find((other) => other.of === 'part' && sameTake(other, made));
    return known?.of === 'part' ? known : made;
  }

  private namesOf(takes: readonly PartTake[]): string {
    return listed(takes.map((take) => this.partOf(take)?.name ?? 'a part'));
  }

  /** Keeps what was caught among the takes; what sounds goes on. */
  keep(made: readonly PartTake[], before: PartTake): void {
    const score = this.ownScore();
    const [first, ...others] = made;
    if (this.undecided.told() || !score || !first) return;
    this.store.dispatch(
      ScoreActions.revised({
        name: 'catch a pass',
        score: made.reduce((now, { id }) => remark(now, id, { verdict: 'kept' }), score),
        takes: made,
        released: [],
      }),
    );
    const [from, of] = [first.origin.from ?? 'it', this.view.nameOf(before.id)];
    const as =
      others.length === 0
        ? `${this.view.nameOf(first.id)}, ${first.notes.length} notes`
        : `a take for each of ${this.namesOf(made)}`;
    this.notices.say(`Caught ${from} of ${of}: ${as}. What plays goes on.`);
  }
}
