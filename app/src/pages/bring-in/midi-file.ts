import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatRadioButton, MatRadioGroup } from '@angular/material/radio';
import { MatSortModule, type Sort } from '@angular/material/sort';
import { MatTableModule } from '@angular/material/table';
import { Router } from '@angular/router';
import type { KeyChoice } from '@fendro/core/files/incoming/imported-song';
import type { ImportLine } from '@fendro/core/files/incoming/file-model';
import { listed } from '@fendro/core/song/limits';
import { isDrumRole, roleOf } from '@fendro/core/song/roles';
import { ROLES } from '@fendro/core/song/schema';
import { tonicsFor, type Key } from '@fendro/core/theory/key';
import { metreName } from '@fendro/core/theory/metre';
import { pitchClassOf, printedName } from '@fendro/core/theory/pitch';
import { scaleOf } from '@fendro/core/theory/scale';
import { Playback } from '../../sound/playback';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { FindField } from '../../ui/fields/find-field';
import { SCALE_CHOICES, tonicChoices } from '../../ui/ground-choices';
import { NotePicture } from '../../ui/note-picture';
import { shapeOf } from '../../ui/note-shape';
import { sortedBy } from '../../ui/sorted-by';
import { MidiFileDesk } from './midi-file-desk';
import { RecordingCorrections } from './recording-corrections';
import { RecordingDesk } from './recording-desk';

const keyText = ({ tonic, scale }: Key): string => `${printedName(tonic)} ${scaleOf(scale).name.toLowerCase()}`;

const PITCHED_ROLES: readonly Choice<string>[] = ROLES.filter((role) => !isDrumRole(role)).map((role) => ({
  value: role,
  text: roleOf(role).name,
}));

/** Before the id of a part that a line goes into, among the roles that it may have instead. */
const INTO = 'into ';

/**
 * Music from a MIDI file: looked at, heard, chosen from, and brought in as a song of its own or into the present one.
 */
@Component({
  selector: 'fd-midi-file',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    FindField,
    MatButton,
    MatCheckbox,
    MatProgressBar,
    MatRadioButton,
    MatRadioGroup,
    MatSortModule,
    MatTableModule,
    NotePicture,
    RecordingCorrections,
  ],
  templateUrl: './midi-file.html',
  styleUrls: ['../pages.scss', './bring-in.scss'],
})
export class MidiFile {
  protected readonly desk = inject(MidiFileDesk);
  protected readonly recording = inject(RecordingDesk);
  private readonly router = inject(Router);
  protected readonly playback = inject(Playback);
  protected readonly over = signal(false);
  protected readonly scales = SCALE_CHOICES;
  protected readonly columns = ['in', 'name', 'notes', 'becomes', 'hear'];
  protected readonly sorted = signal<Sort>({ active: '', direction: '' });
  protected readonly moves: readonly Choice<KeyChoice>[] = [
    { value: 'leave', text: 'leave both as they are' },
    { value: 'move the notes', text: 'move the notes to the song’s key' },
    { value: 'move the song', text: 'move the song to theirs' },
  ];
  protected readonly tonics = computed(() => tonicChoices(this.desk.key().scale));
  protected readonly tonicClass = computed(() => pitchClassOf(this.desk.key().tonic));
  protected readonly idle = computed(
    () => this.desk.picked().length === 0 || this.desk.chords() === null || this.desk.reading(),
  );

  private readonly lines = computed(() =>
    (this.desk.found()?.file.lines ?? []).map((line, index) => ({
      ...line,
      colour: index % 10,
      shape: shapeOf(index % 10, line.drums),
      said: `${line.name}, ${line.notes.length} notes`,
    })),
  );
  protected readonly shown = computed(() =>
    sortedBy(this.lines(), this.sorted(), { notes: ({ notes }) => notes.length }),
  );

  protected readonly summary = computed(() => {
    const found = this.desk.found();
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

  /** The keys that the file states, each once, in the order in which they come. */
  private readonly statedKeys = computed(() => {
    const keys = (this.desk.found()?.file.sections ?? []).map(({ key }) => key);
    return [...new Set(keys.flatMap((key) => (key ? [keyText(key)] : [])))];
  });

  protected readonly keyFound = computed(() => {
    const [first, second] = this.desk.found()?.keys ?? [];
    if (!first) return '';
    const stated = this.statedKeys();
    if (stated[0] !== undefined) return `It says that it is in ${listed(stated)}.`;
    const doubt = second ? `; next ${keyText(second.key)} (${second.confidence} %)` : '';
    return `It seems to be in ${keyText(first.key)} (${first.confidence} %)${doubt}.`;
  });

  protected readonly songKey = computed(() => {
    const score = this.desk.score();
    return score ? keyText(score.ground) : '';
  });
  protected readonly sameKey = computed(() => {
    const score = this.desk.score();
    return score ? pitchClassOf(score.ground.tonic) === this.tonicClass() : true;
  });
  protected readonly chordsFound = computed(() => {
    const chords = this.desk.chords();
    return chords
      ? `${chords.flat().filter(({ chord }) => chord !== null).length} chords were found.`
      : 'Its chords are being found …';
  });

  protected readonly styles = computed((): readonly Choice<string>[] =>
    this.desk.styles().map(({ id, name, family }) => ({ value: id, text: name, group: family })),
  );
  /** What is drafted beside the file, and after what. */
  protected readonly bandText = computed(() => {
    const [names, swing] = [this.desk.lacking(), this.desk.swing()];
    if (names.length === 0) return 'It has all that this style’s band plays: nothing would be drafted.';
    const feel = swing > 0 ? `, chords and swing (${swing} %)` : ' and chords';
    return `As a song of its own: ${listed(names)} ${names.length === 1 ? 'is' : 'are'} drafted to its tempo, key${feel}.`;
  });

  protected take(files: FileList | null | undefined): void {
    const file = files?.[0];
    if (file) void this.recording.open(file);
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    this.over.set(false);
    this.take(event.dataTransfer?.files);
  }

  protected dragOver(event: DragEvent): void {
    event.preventDefault();
    this.over.set(true);
  }

  /**
   * What a line can become: a part of its own, or its place in a part of the present song, drums in drums, the rest in the
   * rest, each part once.
   */
  protected readonly becoming = computed((): ReadonlyMap<string, readonly Choice<string>[]> => {
    const [targets, parts] = [this.desk.targets(), this.desk.score()?.parts ?? []];
    const choices = (line: ImportLine): readonly Choice<string>[] => {
      const open = parts.filter(
        ({ id, role }) =>
          isDrumRole(role) === line.drums && (targets[line.id] === id || !Object.values(targets).includes(id)),
      );
      return [
        ...(line.drums ? [{ value: 'drums', text: 'Drums' }] : PITCHED_ROLES),
        ...open.map(({ id, name }) => ({ value: INTO + id, text: name, group: 'In this song, into' })),
      ];
    };
    return new Map((this.desk.found()?.file.lines ?? []).map((line) => [line.id, choices(line)]));
  });

  protected becomes(line: ImportLine): string {
    const target = this.desk.targets()[line.id];
    return target === undefined ? this.desk.roleOf(line) : INTO + target;
  }

  protected setBecoming(line: ImportLine, value: string): void {
    const role = ROLES.find((known) => known === value);
    if (role) this.desk.setRole(line.id, role);
    else this.desk.setTarget(line.id, value.slice(INTO.length));
  }

  protected setMove(move: unknown): void {
    const found = this.moves.find(({ value }) => value === move);
    if (found) this.desk.move.set(found.value);
  }

  protected setTonic(pitchClass: number): void {
    this.desk.key.update(({ scale }) => ({ scale, tonic: tonicsFor(scale)[pitchClass] ?? 0 }));
  }

  protected setScale(scale: string): void {
    this.desk.key.update(({ tonic }) => ({ scale, tonic: tonicsFor(scale)[pitchClassOf(tonic)] ?? 0 }));
  }

  protected async asSong(): Promise<void> {
    if (await this.desk.asSong()) await this.router.navigateByUrl('/');
  }

  protected async intoSong(): Promise<void> {
    if (await this.desk.intoSong()) await this.router.navigateByUrl('/');
  }
}
