import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { sortedBy } from '../ui/sorted-by';
import { SCALE_CHOICES, tonicChoices } from '../ui/ground-choices';
import { MatTableModule } from '@angular/material/table';
import { MatSortModule, type Sort } from '@angular/material/sort';
import { MatRadioButton, MatRadioGroup } from '@angular/material/radio';
import { MatCheckbox } from '@angular/material/checkbox';
import { FindField } from '../ui/fields/find-field';
import { ChoiceField, type Choice } from '../ui/fields/choice-field';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  groundOfFile,
  importInto,
  importProblem,
  type ImportChoice,
  type Imported,
  type KeyChoice,
} from '@fendro/core/files/imported-song';
import type { ImportLine } from '@fendro/core/files/midi-import';
import { followGround } from '@fendro/core/song/follow-ground';
import { LIMITS, shortened } from '@fendro/core/song/limits';
import { NOTHING_HEARD } from '@fendro/core/song/resolve';
import { isDrumRole, roleOf } from '@fendro/core/song/roles';
import { ROLES, type ChordSpan, type Role, type Score, type Take } from '@fendro/core/song/schema';
import { startScore } from '@fendro/core/styles/band';
import { styleIn, withStyle } from '@fendro/core/styles/styles';
import { tonicsFor, type Key } from '@fendro/core/theory/key';
import { barTicks, metreName } from '@fendro/core/theory/metre';
import { pitchClassOf, printedName } from '@fendro/core/theory/pitch';
import { scaleOf } from '@fendro/core/theory/scale';
import { Playback } from '../sound/playback';
import { newId } from '../store/ids';
import { Library } from '../desks/library';
import { selectOwnScore, selectSong } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { NotePicture, shapeOf } from '../ui/note-picture';
import { ImportClient } from '../work/import-client';
import type { FoundInFile } from '../work/import-messages';

const NO_MUSIC = { parts: [], sections: [], order: [] } as const;

const keyText = ({ tonic, scale }: Key): string => `${printedName(tonic)} ${scaleOf(scale).name.toLowerCase()}`;

const PITCHED_ROLES: readonly Choice<string>[] = ROLES.filter((role) => !isDrumRole(role)).map((role) => ({
  value: role,
  text: roleOf(role).name,
}));

/**
 * Music from a MIDI file: looked at, heard, chosen from, and brought in as a song of its own or into the present one.
 */
@Component({
  selector: 'fd-bring-in',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    NotePicture,
    MatButton,
    ChoiceField,
    FindField,
    MatCheckbox,
    MatRadioGroup,
    MatRadioButton,
    MatSortModule,
    MatTableModule,
  ],
  templateUrl: './bring-in.html',
  styleUrls: ['./pages.scss', './bring-in.scss'],
})
export class BringIn {
  private readonly client = inject(ImportClient);
  private readonly library = inject(Library);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  protected readonly playback = inject(Playback);
  private readonly song = this.store.selectSignal(selectSong);
  protected readonly score = this.store.selectSignal(selectOwnScore);

  protected readonly fileName = signal('');
  protected readonly found = signal<FoundInFile | null>(null);
  protected readonly problem = signal<string | null>(null);
  protected readonly reading = signal(false);
  protected readonly over = signal(false);
  protected readonly picked = signal<readonly string[]>([]);
  private readonly roles = signal<Readonly<Record<string, Role>>>({});
  /** Lines that go into parts of the present song, by the part's id. */
  protected readonly targets = signal<Readonly<Record<string, string>>>({});
  protected readonly key = signal<Key>({ tonic: 0, scale: 'major' });
  protected readonly move = signal<KeyChoice>('leave');
  protected readonly alone = signal<string | null>(null);
  /** The chords of each section, as far as they have been found. */
  protected readonly chords = signal<readonly (readonly ChordSpan[])[] | null>(null);
  private asked = 0;

  protected readonly scales = SCALE_CHOICES;
  protected readonly columns = ['in', 'name', 'notes', 'becomes', 'hear'];
  protected readonly sorted = signal<Sort>({ active: '', direction: '' });
  protected readonly moves: readonly Choice<KeyChoice>[] = [
    { value: 'leave', text: 'leave both as they are' },
    { value: 'move the notes', text: 'move the notes to the song’s key' },
    { value: 'move the song', text: 'move the song to theirs' },
  ];
  protected readonly tonics = computed(() => tonicChoices(this.key().scale));
  protected readonly tonicClass = computed(() => pitchClassOf(this.key().tonic));

  protected readonly lines = computed(() =>
    (this.found()?.file.lines ?? []).map((line, index) => ({
      ...line,
      role: this.roles()[line.id] ?? line.role,
      colour: index % 10,
      shape: shapeOf(index % 10, line.drums),
      said: `${line.name}, ${line.notes.length} notes`,
    })),
  );
  protected readonly shown = computed(() =>
    sortedBy(this.lines(), this.sorted(), { notes: ({ notes }) => notes.length }),
  );
  protected readonly bar = computed(() => {
    const first = this.found()?.file.sections[0];
    return first ? barTicks(first.metre) : 1920;
  });

  protected readonly summary = computed(() => {
    const found = this.found();
    if (!found) return '';
    const { sections, lines } = found.file;
    const bars = sections.reduce((total, section) => total + section.bars, 0);
    const metres = [...new Set(sections.map(({ metre }) => metreName(metre)))].join(' and ');
    return (
      `${lines.length} ${lines.length === 1 ? 'line' : 'lines'}, ${bars} bars of ${metres}, ` +
      `${sections[0]?.tempo} beats a minute, ${sections.length} ` +
      `${sections.length === 1 ? 'section' : 'sections'}.`
    );
  });

  protected readonly keyFound = computed(() => {
    const [first, second] = this.found()?.keys ?? [];
    if (!first) return '';
    const doubt = second ? `; next ${keyText(second.key)} (${second.confidence} %)` : '';
    return `It seems to be in ${keyText(first.key)} (${first.confidence} %)${doubt}.`;
  });

  protected readonly songKey = computed(() => {
    const score = this.score();
    return score ? keyText(score.ground) : '';
  });
  protected readonly sameKey = computed(() => {
    const score = this.score();
    return score ? pitchClassOf(score.ground.tonic) === this.tonicClass() : true;
  });
  protected readonly chordsFound = computed(() => {
    const chords = this.chords();
    return chords
      ? `${chords.flat().filter(({ chord }) => chord !== null).length} chords were found.`
      : 'Its chords are being found …';
  });

  /** Why what is picked cannot become a song of its own, or go into the one that is open. */
  protected readonly songProblem = computed(() => {
    const found = this.found();
    return found ? importProblem(NO_MUSIC, found.file, { lines: this.picked() }) : null;
  });
  protected readonly intoProblem = computed(() => {
    const [found, score] = [this.found(), this.score()];
    return found && score ? importProblem(score, found.file, { lines: this.picked(), into: this.targets() }) : null;
  });

  /** The file as a song of its own, made once for what is picked; it is heard from here. */
  private readonly imported = computed((): (Imported & { readonly title: string }) | null => {
    const found = this.found();
    const chords = this.chords();
    if (!found || !chords || this.picked().length === 0) return null;
    if (this.songProblem() !== null) return null;
    const style = styleIn(this.score(), this.score()?.ground.style ?? '');
    const started = withStyle(
      startScore(this.title(), groundOfFile(found.file, this.key(), style.id), style, newId),
      style,
    );
    const blank: Score = { ...started, parts: [], sections: [], order: [] };
    return {
      ...importInto(blank, this.fileWithRoles(found), chords, this.choice('leave'), newId),
      title: this.title(),
    };
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
      this.playback.guest.set(null);
    });
  }

  private title(): string {
    return (
      shortened(
        this.fileName()
          .replace(/\.midi?$/i, '')
          .trim(),
        LIMITS.title,
      ) || 'From a file'
    );
  }

  private choice(move: KeyChoice): ImportChoice {
    return { lines: this.picked(), key: this.key(), move, into: this.targets(), file: this.fileName() };
  }

  private fileWithRoles(found: FoundInFile): FoundInFile['file'] {
    return {
      ...found.file,
      lines: found.file.lines.map((line): ImportLine => ({ ...line, role: this.roles()[line.id] ?? line.role })),
    };
  }

  protected async take(files: FileList | null | undefined): Promise<void> {
    const file = files?.[0];
    if (!file) return;
    this.playback.stop();
    this.playback.guest.set(null);
    this.reading.set(true);
    this.problem.set(null);
    const answer = await this.client.read(new Uint8Array(await file.arrayBuffer()));
    this.reading.set(false);
    if (!answer.ok) {
      this.problem.set(`${file.name}: ${answer.reason}`);
      return;
    }
    this.fileName.set(file.name);
    this.roles.set({});
    this.targets.set({});
    this.picked.set(answer.found.file.lines.map(({ id }) => id));
    this.key.set(answer.found.keys[0]?.key ?? { tonic: 0, scale: 'major' });
    this.found.set(answer.found);
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    this.over.set(false);
    void this.take(event.dataTransfer?.files);
  }

  protected dragOver(event: DragEvent): void {
    event.preventDefault();
    this.over.set(true);
  }

  protected pick(id: string): void {
    this.picked.update((picked) => (picked.includes(id) ? picked.filter((other) => other !== id) : [...picked, id]));
  }

  /**
   * What a line can become: a part of its own, or its place in a part of the present song, drums in drums, the rest in the
   * rest, each part once.
   */
  protected becoming(line: ImportLine): readonly Choice<string>[] {
    const targets = this.targets();
    const open = (this.score()?.parts ?? []).filter(
      ({ id, role }) =>
        isDrumRole(role) === line.drums && (targets[line.id] === id || !Object.values(targets).includes(id)),
    );
    return [
      ...(line.drums ? [{ value: 'drums', text: 'Drums' }] : PITCHED_ROLES),
      ...open.map(({ id, name }) => ({ value: `into ${id}`, text: name, group: 'In this song, into' })),
    ];
  }

  protected becomes(line: ImportLine & { readonly role: Role }): string {
    const target = this.targets()[line.id];
    return target === undefined ? line.role : `into ${target}`;
  }

  protected setRole(id: string, role: string): void {
    const { [id]: _old, ...others } = this.targets();
    if (role.startsWith('into ')) this.targets.set({ ...others, [id]: role.slice('into '.length) });
    else {
      this.targets.set(others);
      this.roles.update((roles) => ({ ...roles, [id]: role as Role }));
    }
  }

  protected setMove(move: unknown): void {
    const found = this.moves.find(({ value }) => value === move);
    if (found) this.move.set(found.value);
  }

  protected setTonic(pitchClass: number): void {
    this.key.update(({ scale }) => ({ scale, tonic: tonicsFor(scale)[pitchClass] ?? 0 }));
  }

  protected setScale(scale: string): void {
    this.key.update(({ tonic }) => ({ scale, tonic: tonicsFor(scale)[pitchClassOf(tonic)] ?? 0 }));
  }

  /** Plays what is picked, or one line by itself. */
  protected async hear(line: string | null): Promise<void> {
    const imported = this.imported();
    if (!imported) return;
    if (this.playback.playing() && this.alone() === line) {
      this.playback.stop();
      return;
    }
    const place = this.picked().indexOf(line ?? '');
    const ordered = imported.score.parts;
    const score =
      line === null
        ? imported.score
        : {
            ...imported.score,
            parts: ordered.map((part, index) => ({ ...part, muted: index !== this.orderOf(line, place) })),
          };
    this.alone.set(line);
    this.playback.stop();
    this.playback.guest.set({ score, takes: Object.fromEntries(imported.takes.map((take) => [take.id, take])) });
    await this.playback.play();
  }

  /** Parts come in the order of the file's lines, whatever the order they were picked in. */
  private orderOf(line: string, fallback: number): number {
    const order = (this.found()?.file.lines ?? [])
      .filter(({ id }) => this.picked().includes(id))
      .findIndex(({ id }) => id === line);
    return order < 0 ? fallback : order;
  }

  protected async asSong(): Promise<void> {
    const imported = this.imported();
    if (!imported) return;
    this.leave();
    const result = await this.library.adopt({ ...imported.score, title: imported.title }, imported.takes);
    if (result.ok) await this.router.navigateByUrl('/');
    else this.problem.set(result.reason);
  }

  /** Everything at once, as one step that can be undone. */
  protected async intoSong(): Promise<void> {
    const [found, own, state, chords] = [this.found(), this.score(), this.song(), this.chords()];
    if (!found || !own || !chords || this.intoProblem() !== null) return;
    const choice = this.choice(this.move());
    let score = own;
    const takes: Take[] = [];
    if (choice.move === 'move the song') {
      const { tonic, scale } = choice.key;
      const followed = followGround(
        own,
        state.takes,
        NOTHING_HEARD,
        { section: null, change: { tonic, scale } },
        'move',
        () => newId('take'),
      );
      score = followed.score;
      takes.push(...followed.takes);
    }
    const imported = importInto(score, this.fileWithRoles(found), chords, choice, newId);
    this.leave();
    this.store.dispatch(
      ScoreActions.revised({
        name: `bring in ${this.fileName()}`,
        score: imported.score,
        takes: [...takes, ...imported.takes],
        released: [],
        view: imported.occurrence,
      }),
    );
    await this.router.navigateByUrl('/');
  }

  private leave(): void {
    this.playback.stop();
    this.playback.guest.set(null);
  }
}
