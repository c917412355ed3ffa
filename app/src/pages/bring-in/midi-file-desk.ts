import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  groundOfFile,
  importInto,
  importProblem,
  type ImportChoice,
  type Imported,
  type KeyChoice,
} from '@fendro/core/files/incoming/imported-song';
import { lacking, styleForFile, swingOfFile, unswungFile, withBand } from '@fendro/core/files/incoming/fit-band';
import type { ImportLine } from '@fendro/core/files/incoming/file-model';
import { followGround } from '@fendro/core/song/follow-ground';
import { LIMITS, shortened } from '@fendro/core/song/limits';
import { NOTHING_HEARD } from '@fendro/core/song/resolve';
import type { ChordSpan, OccurrenceId, PartId, Role, Score, Take } from '@fendro/core/song/schema';
import type { Style } from '@fendro/core/song/style';
import { startScore } from '@fendro/core/styles/band';
import { styleIn, styleOf, STYLES, withStyle } from '@fendro/core/styles/styles';
import type { Key } from '@fendro/core/theory/key';
import { Drafting } from '../../desks/drafting';
import { Library } from '../../desks/library';
import { Playback } from '../../sound/playback';
import { newId } from '../../store/ids';
import { Shelf } from '../../store/shelf';
import { selectOwnScore } from '../../store/selectors';
import { ScoreActions } from '../../store/song.actions';
import { songFeature } from '../../store/song.reducer';
import { ImportClient } from '../../work/import-client';
import type { FoundInFile } from '../../work/import-messages';

/** Lays what a song was written from under it. */
export type LaysUnder = (score: Score, place: OccurrenceId) => Promise<Score>;

const NO_MUSIC = { parts: [], sections: [], order: [] } as const;

/** Music from a MIDI file: read, chosen from, heard, and brought in as a song of its own or into the present one. */
@Injectable()
export class MidiFileDesk {
  private readonly client = inject(ImportClient);
  private readonly library = inject(Library);
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly drafting = inject(Drafting);
  private readonly shelf = inject(Shelf);
  private readonly takes = this.store.selectSignal(songFeature.selectTakes);
  readonly score = this.store.selectSignal(selectOwnScore);

  readonly fileName = signal('');
  readonly found = signal<FoundInFile | null>(null);
  readonly problem = signal<string | null>(null);
  readonly reading = signal(false);
  /** Lines of the file that are to be brought in. */
  readonly picked = signal<readonly string[]>([]);
  private readonly roles = signal<Readonly<Record<string, Role>>>({});
  /** Lines that go into parts of the present song, by the part's id. */
  readonly targets = signal<Readonly<Record<string, string>>>({});
  readonly key = signal<Key>({ tonic: 0, scale: 'major' });
  readonly move = signal<KeyChoice>('leave');
  /** The line that is heard by itself. */
  readonly alone = signal<string | null>(null);
  /** The chords of each section, as far as they have been found. */
  readonly chords = signal<readonly (readonly ChordSpan[])[] | null>(null);
  readonly finding = computed(() => this.found() !== null && this.picked().length > 0 && this.chords() === null);
  /** What comes to lie under the song that it becomes. */
  private laysUnder: LaysUnder | null = null;
  private asked = 0;
  private work: AbortController | null = null;

  /** Why what is picked cannot become a song of its own, or go into the one that is open. */
  readonly songProblem = computed(() => {
    const found = this.found();
    return found ? importProblem(NO_MUSIC, found.file, { lines: this.picked() }) : null;
  });
  readonly intoProblem = computed(() => {
    const [found, score] = [this.found(), this.score()];
    return found && score ? importProblem(score, found.file, { lines: this.picked(), into: this.targets() }) : null;
  });

  /** Whether a band is fitted to it: what it lacks is drafted beside it. */
  readonly fits = signal(false);
  private readonly chosenStyle = signal<string | null>(null);
  readonly styles = computed(() => [...this.shelf.contents().styles, ...STYLES]);
  /** How far the file swings, in %. */
  readonly swing = computed(() => {
    const found = this.found();
    return found ? swingOfFile(found.file) : 0;
  });
  /** The style of that band: the nearest to the file until another is chosen. */
  readonly style = computed((): Style => {
    const found = this.found();
    const chosen = this.styles().find(({ id }) => id === this.chosenStyle());
    return chosen ?? (found ? styleForFile(found.file, this.swing()) : styleOf(''));
  });
  /** What would be drafted. */
  readonly lacking = computed(() => {
    const found = this.found();
    if (!found) return [];
    const lines = found.file.lines.filter(({ id }) => this.picked().includes(id));
    return lacking({ parts: lines.map((line) => ({ role: this.roleOf(line) })) }, this.style()).map(({ name }) => name);
  });

  /** The file as a song of its own, made once for what is picked; it is heard from here. */
  private readonly imported = computed((): (Imported & { readonly title: string; readonly added: PartId[] }) | null => {
    const [found, chords, fits] = [this.found(), this.chords(), this.fits()];
    if (!found || !chords || this.picked().length === 0 || this.songProblem() !== null) return null;
    const style = fits ? this.style() : styleIn(this.score(), this.score()?.ground.style ?? '');
    const title = titleOf(this.fileName());
    const swing = fits ? this.swing() : 0;
    const ground = { ...groundOfFile(found.file, this.key(), style.id), swing };
    const started = withStyle(startScore(title, ground, style, newId), style);
    const blank: Score = { ...started, parts: [], sections: [], order: [] };
    const file = unswungFile(this.fileWithRoles(found), swing);
    const made = importInto(blank, file, chords, this.choice('leave'), newId);
    const { score, added } = fits ? withBand(made.score, style, newId) : { score: made.score, added: [] };
    return { ...made, score, title, added };
  });

  constructor() {
    effect(() => {
      const [found, picked, key] = [this.found(), this.picked(), this.key()];
      untracked(() => {
        this.chords.set(null);
      });
      if (!found || picked.length === 0) return;
      const asked = ++this.asked;
      void this.client.chords(found.file, picked, key).then((chords) => {
        // A later question has made this answer old.
        if (asked === this.asked) this.chords.set(chords ?? found.file.sections.map(() => []));
      });
    });
    inject(DestroyRef).onDestroy(() => {
      this.work?.abort();
      this.playback.guest.set(null);
    });
  }

  roleOf(line: ImportLine): Role {
    return this.roles()[line.id] ?? line.role;
  }

  private choice(move: KeyChoice): ImportChoice {
    return { lines: this.picked(), key: this.key(), move, into: this.targets(), file: this.fileName() };
  }

  private fileWithRoles({ file }: FoundInFile): FoundInFile['file'] {
    return { ...file, lines: file.lines.map((line): ImportLine => ({ ...line, role: this.roleOf(line) })) };
  }

  /** Falls silent, and waits for another file; what was read before stays until that has been. */
  leave(): void {
    this.silence();
    this.work?.abort();
    this.reading.set(true);
    this.problem.set(null);
  }

  /**
   * Reads a MIDI file.
   *
   * @returns true where it is open now
   */
  async take(file: File): Promise<boolean> {
    this.leave();
    const work = new AbortController();
    this.work = work;
    const answer = await this.client.read(new Uint8Array(await file.arrayBuffer()), work.signal);
    if (this.work !== work) return false;
    this.work = null;
    this.reading.set(false);
    if (work.signal.aborted) return false;
    if (answer.ok) this.show(file.name, answer.found, null);
    else this.problem.set(`${file.name}: ${answer.reason}`);
    return answer.ok;
  }

  /**
   * Shows what was found in a file.
   *
   * @param laysUnder  what comes to lie under the song that it becomes
   */
  show(fileName: string, found: FoundInFile, laysUnder: LaysUnder | null): void {
    this.fileName.set(fileName);
    this.roles.set({});
    this.targets.set({});
    this.chosenStyle.set(null);
    this.laysUnder = laysUnder;
    this.picked.set(found.file.lines.map(({ id }) => id));
    this.key.set(found.keys[0]?.key ?? { tonic: 0, scale: 'major' });
    this.found.set(found);
  }

  /** Shows the same lines as they are written in another way; what was chosen of them stays. */
  rewrite(found: FoundInFile): void {
    this.silence();
    this.found.set(found);
  }

  setStyle(id: string): void {
    this.chosenStyle.set(id);
  }

  /** Gives up the file that is being read. */
  cancel(): void {
    this.work?.abort();
  }

  pick(id: string): void {
    this.picked.update((picked) => (picked.includes(id) ? picked.filter((other) => other !== id) : [...picked, id]));
  }

  /** Makes a line a part of its own. */
  setRole(id: string, role: Role): void {
    const { [id]: _old, ...others } = this.targets();
    this.targets.set(others);
    this.roles.update((roles) => ({ ...roles, [id]: role }));
  }

  /** Lets a line go into a part of the present song. */
  setTarget(id: string, part: string): void {
    this.targets.update((targets) => ({ ...targets, [id]: part }));
  }

  /** Plays what is picked, or one line by itself; stops where it plays already. */
  async hear(line: string | null): Promise<void> {
    const imported = this.imported();
    if (!imported) return;
    if (this.playback.playing() && this.alone() === line) {
      this.playback.stop();
      return;
    }
    // Parts come in the order of the file's lines, whatever the order they were picked in.
    const order = (this.found()?.file.lines ?? []).filter(({ id }) => this.picked().includes(id));
    const place = order.findIndex(({ id }) => id === line);
    const parts = imported.score.parts.map((part, index) =>
      line === null ? part : { ...part, muted: index !== place },
    );
    this.alone.set(line);
    this.playback.stop();
    this.playback.guest.set({
      score: { ...imported.score, parts },
      takes: Object.fromEntries(imported.takes.map((take) => [take.id, take])),
    });
    await this.playback.play();
  }

  /** @returns true where the file is a song now, and open */
  async asSong(): Promise<boolean> {
    const imported = this.imported();
    if (!imported) return false;
    this.silence();
    const titled = { ...imported.score, title: imported.title };
    const score = (await this.laysUnder?.(titled, imported.occurrence)) ?? titled;
    const result = await this.library.adopt(score, imported.takes);
    if (!result.ok) this.problem.set(result.reason);
    else if (imported.added.length > 0) void this.drafting.draftParts(new Set(imported.added));
    return result.ok;
  }

  /**
   * Everything at once, as one step that can be undone.
   *
   * @returns true where it was brought in
   */
  async intoSong(): Promise<boolean> {
    const [found, own, chords] = [this.found(), this.score(), this.chords()];
    if (!found || !own || !chords || this.intoProblem() !== null) return false;
    const choice = this.choice(this.move());
    let score = own;
    const takes: Take[] = [];
    if (choice.move === 'move the song') {
      const { tonic, scale } = choice.key;
      const change = { section: null, change: { tonic, scale } };
      const followed = followGround(own, this.takes(), NOTHING_HEARD, change, 'move', () => newId('take'));
      score = followed.score;
      takes.push(...followed.takes);
    }
    const imported = importInto(score, this.fileWithRoles(found), chords, choice, newId);
    this.silence();
    const laid = (await this.laysUnder?.(imported.score, imported.occurrence)) ?? imported.score;
    this.store.dispatch(
      ScoreActions.revised({
        name: `bring in ${this.fileName()}`,
        score: laid,
        takes: [...takes, ...imported.takes],
        released: [],
        view: imported.occurrence,
      }),
    );
    return true;
  }

  private silence(): void {
    this.playback.stop();
    this.playback.guest.set(null);
  }
}

const titleOf = (fileName: string): string =>
  shortened(fileName.replace(/\.(midi?|wav|mp3|ogg|flac|m4a|aiff?)$/i, '').trim(), LIMITS.title) || 'From a file';
