import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { rolled } from '@fendro/core/patterns/dice';
import { firstLoops, firstPattern, firstWandering } from '@fendro/core/patterns/first-pattern';
import { overOf, patternNotes } from '@fendro/core/patterns/pass';
import { inReachOf } from '@fendro/core/patterns/pattern-edits';
import { chooseMadeOf } from '@fendro/core/song/edit';
import { groundOf } from '@fendro/core/song/ground';
import { sectionTicks, soundingId } from '@fendro/core/song/resolve';
import { HARMONY, type PartTake, type Pattern, type Role, type StripName, type TakeId } from '@fendro/core/song/schema';
import { patternTake } from '@fendro/core/song/take';
import { hashLabels } from '@fendro/core/trellis/random';
import { Playback } from '../sound/playback';
import { newId } from '../store/ids';
import { selectMusic, selectOwnScore, selectPart, selectSection } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { TakeEdits } from './take-edits';
import { Undecided } from './undecided';

/** The kinds of what goes on by itself. */
export type PatternKind = Pattern['of'];

const BEGINNINGS = {
  drawn: { name: 'draw a pattern', first: firstPattern },
  loops: { name: 'set loops', first: firstLoops },
  wandering: { name: 'let notes wander', first: firstWandering },
} as const;

/** Many small edits of one kind that follow each other: one step of undo, and one take. */
interface Run {
  readonly kind: string;
  /** The take that the first of them changed, and the last that was made. */
  readonly before: TakeId;
  readonly made: TakeId;
}

/** By what the line in focus goes on by itself: each edit makes a take with another pattern, and chooses it. */
@Injectable({ providedIn: 'root' })
export class PatternDesk {
  private readonly store = inject(Store);
  private readonly undecided = inject(Undecided);
  private readonly edits = inject(TakeEdits);
  private readonly playback = inject(Playback);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private run: Run | null = null;

  /** The pattern that sounds; null where the line does not go on by itself. */
  readonly pattern = computed((): Pattern | null => this.edits.take()?.pattern ?? null);

  /** Another number from which chance is drawn. */
  private seed(): number {
    return hashLabels(Date.now(), [newId('seed')]);
  }

  /** True where a part is in focus that could go on by itself. */
  readonly ready = computed(() => this.part() !== null);

  /** Begins a pattern of some kind for the part in focus, in place of what it plays, and lets it be heard. */
  begin(kind: PatternKind): void {
    const part = this.part();
    if (!part) return;
    this.make(BEGINNINGS[kind].name, BEGINNINGS[kind].first(part, this.seed()), null);
    this.playback.playIfStopped();
  }

  /** Lets the part in focus go on by a pattern from the shelf, in its own reach where it was another role's. */
  take(pattern: Pattern, role: Role): void {
    const part = this.part();
    if (!part) return;
    const own = role === part.role ? pattern : inReachOf(pattern, part.brief);
    this.make('take a pattern', own, null);
    this.playback.playIfStopped();
  }

  /**
   * Draws the pattern otherwise.
   *
   * @param change  gives the same pattern where nothing is to be done
   * @param kind    edits of one kind that follow each other are one step
   */
  edit(name: string, change: (pattern: Pattern) => Pattern, kind?: string): void {
    const pattern = this.pattern();
    const next = pattern && change(pattern);
    if (next && next !== pattern) this.make(name, next, this.edits.take()?.id ?? null, kind);
  }

  /** Lets chance draw a strip, or all of them; what is held stays. */
  roll(only?: StripName): void {
    const [music, section] = [this.music(), this.section()];
    if (!music || !section) return;
    const ground = groundOf(music.score, section);
    this.edit('roll the dice', (pattern) =>
      pattern.of === 'drawn' ? rolled({ ...pattern, seed: this.seed() }, ground, 0, only) : pattern,
    );
  }

  /** What the part in focus would play by a pattern from the shelf; null where that cannot be. */
  trial(pattern: Pattern, role: Role): PartTake | null {
    const part = this.part();
    return part && this.made(role === part.role ? pattern : inReachOf(pattern, part.brief), null);
  }

  private made(pattern: Pattern, before: TakeId | null): PartTake | null {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    if (this.undecided.told() || !music || !section || !part) return null;
    return patternTake(
      { id: newId('take'), section: section.id, length: sectionTicks(music.score, section) },
      part,
      pattern,
      patternNotes(pattern, overOf(music, section, 0)),
      { harmony: soundingId(section, HARMONY, music.heard), ground: groundOf(music.score, section), before },
    );
  }

  private make(name: string, pattern: Pattern, before: TakeId | null, kind?: string): void {
    const [score, section, part] = [this.ownScore(), this.section(), this.part()];
    const passed = this.run && this.run.kind === kind && this.run.made === before ? this.run : null;
    const made = this.made(pattern, passed?.before ?? before);
    if (!made || !score || !section || !part) return;
    this.store.dispatch(
      ScoreActions.revised({
        name,
        score: chooseMadeOf(score, section.id, part.id, before, made.id),
        takes: [made],
        released: [{ section: section.id, line: part.id }],
        ...(kind === undefined ? {} : { gesture: `${kind} ${passed?.before ?? before} ${part.id}` }),
        ...(passed ? { dropped: [passed.made] } : {}),
      }),
    );
    this.run = kind === undefined || before === null ? null : { kind, before: passed?.before ?? before, made: made.id };
  }
}
