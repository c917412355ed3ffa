import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, resource, signal } from '@angular/core';
import { sortedBy } from '../../ui/sorted-by';
import { MatTableModule } from '@angular/material/table';
import { MatSortModule, type Sort } from '@angular/material/sort';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import { FIRST_PAD } from '@fendro/core/files/midi/drum-layout';
import { OWN_RESOLUTION, RESOLUTIONS, type Resolution } from '@fendro/core/files/midi/at-resolution';
import { musicFor, type HandedFile, type HandOver } from '@fendro/core/files/outgoing/hand-over';
import { goneSince, sinceThen, type Since } from '@fendro/core/files/outgoing/since';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import { isDrumRole } from '@fendro/core/song/roles';
import { drumName } from '@fendro/core/sounding/drum-names';
import type { MidiNote } from '@fendro/core/theory/units';
import { styleIn } from '@fendro/core/styles/styles';
import { selectScore, selectTakes } from '../../store/selectors';
import { download } from '../../ui/download';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { NumberField } from '../../ui/fields/number-field';
import { canUseFolders, chosenFolder, writeInto } from '../../ui/folder';
import { inWords } from '../../ui/in-words';
import { FilesClient } from '../../work/files-client';
import { Guide } from '../../desks/guide';
import { DragOut } from '../../desks/drag-out';
import { HandedOverDesk } from '../../desks/handed-over';
import { OwnDrumKeys } from '../../desks/own-drum-keys';
import { AskedFiles, type Asked } from './asked-files';
import { TimesRound } from './times-round';

const SORTED_BY = {
  file: ({ delivery }: HandedFile) => delivery.name,
  notes: ({ delivery }: HandedFile) => delivery.notes,
  size: ({ delivery }: HandedFile) => delivery.bytes.length,
};

/** “One file was”, “3 files were”. */
const counted = (files: readonly HandedFile[]): string =>
  files.length === 1 ? 'One file was' : `${files.length} files were`;

/** The MIDI files of a song: what will be written, how, and the files themselves. */
@Component({
  selector: 'fd-midi-files',
  providers: [AskedFiles],
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    NumberField,
    TimesRound,
    MatButton,
    MatIcon,
    MatCheckbox,
    MatProgressBar,
    MatSortModule,
    MatTableModule,
  ],
  templateUrl: './midi-files.html',
  styleUrl: '../pages.scss',
})
export class MidiFiles {
  private readonly store = inject(Store);
  private readonly guide = inject(Guide);
  private readonly files = inject(FilesClient);
  protected readonly score = this.store.selectSignal(selectScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  protected readonly asked = inject(AskedFiles);
  private readonly handedOver = inject(HandedOverDesk);
  private readonly out = inject(DragOut);
  private readonly ownKeys = inject(OwnDrumKeys);
  protected readonly said = signal('');
  protected readonly canUseFolders = canUseFolders();
  protected readonly folder = this.handedOver.folder;
  /** Files carry what hands add to the notes, as it is heard, or the notes as they are written. */
  protected readonly human = signal(true);
  /** Voices of ensembles are tracks and files of their own. */
  protected readonly apart = signal(true);
  /** Instruments that double a part are in its own track. */
  protected readonly layersTogether = signal(false);
  /** Every drum is a track of its own, by its name. */
  protected readonly drumsApart = signal(false);
  /** Ticks to a quarter note. */
  protected readonly resolution = signal<Resolution>(OWN_RESOLUTION);
  protected readonly resolutions = RESOLUTIONS.map((value) => ({ value, text: String(value) }));
  /** On which keys drums are struck. */
  protected readonly layout = signal<'general' | 'pads' | 'own'>('general');
  protected readonly layouts: readonly Choice<'general' | 'pads' | 'own'>[] = [
    { value: 'general', text: 'as General MIDI has them' },
    { value: 'pads', text: `in a row from key ${FIRST_PAD} up` },
    { value: 'own', text: 'on keys of your own' },
  ];
  protected readonly keyBounds = { least: 0, most: 127 };
  protected readonly drumName = drumName;
  protected readonly hasDrums = computed(() => (this.score()?.parts ?? []).some(({ role }) => isDrumRole(role)));
  protected readonly hasLayers = computed(() => (this.score()?.parts ?? []).some(({ layers }) => layers));
  protected readonly hasEnsembles = computed(() => (this.score()?.parts ?? []).some(({ role }) => role === 'ensemble'));
  protected readonly hasHumans = computed(() => {
    const score = this.score();
    return (
      score !== null &&
      (score.parts.some(({ brief }) => brief.humanise > 0) || styleIn(score, score.ground.style).feel !== undefined)
    );
  });

  private readonly wish = computed(() => {
    const score = this.score();
    return score
      ? {
          music: musicFor(score, this.takes(), this.asked.what()),
          wish: {
            what: this.asked.what(),
            human: this.human(),
            apart: this.apart(),
            layersTogether: this.layersTogether(),
            drumsApart: this.drumsApart(),
            resolution: this.resolution(),
            drums: this.layout() === 'own' ? this.ownKeys.keys() : (this.layout() as 'general' | 'pads'),
          },
        }
      : undefined;
  });
  protected readonly written = resource({
    params: () => this.wish(),
    loader: ({ params: { music, wish }, abortSignal }) => this.files.handOver(music, wish, abortSignal),
  });
  protected readonly problem = computed(() => {
    const problem = this.written.error();
    return problem ? inWords(problem) : null;
  });
  /** The files; those before while others are written. */
  private readonly handed = linkedSignal<HandOver | undefined, HandOver>({
    source: () => (this.written.hasValue() ? this.written.value() : undefined),
    computation: (now, before) => now ?? before?.value ?? { files: [], remarks: [], drums: [] },
  });
  /** Every drum that is struck, and its key in the files. */
  protected readonly drums = computed(() => this.handed().drums);
  protected readonly inRow = computed(() =>
    this.drums()
      .map(([drum, key]) => `${drumName(drum)} ${key}`)
      .join(', '),
  );
  /** The files that are asked for. */
  private readonly wanted = computed(() => this.asked.among(this.handed().files));
  /** What holds of the song's files as a whole. */
  protected readonly remarks = computed(() => this.handed().remarks);

  protected readonly columns = ['what', 'file', 'notes', 'size', 'get'];
  /** By which column, and which way; in the order of the song where none is asked for. */
  protected readonly sorted = signal<Sort>({ active: '', direction: '' });
  protected readonly rows = computed(() => sortedBy(this.wanted(), this.sorted(), SORTED_BY));

  protected readonly muted = computed(() =>
    (this.score()?.parts ?? [])
      .filter(({ muted }) => muted)
      .map(({ name }) => name)
      .join(', '),
  );

  /** When something of the whole song went out last, in words; null where that is not what is handed over. */
  protected readonly lastTime = computed(() => {
    const at = this.asked.ofSong() ? this.handedOver.at() : null;
    return at
      ? at.toLocaleString('en-GB', { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' })
      : null;
  });
  /** Files that are not as they went out last. */
  protected readonly changed = computed(() => this.wanted().filter((file) => this.since(file) !== 'same'));
  protected readonly gone = computed(() =>
    goneSince(
      this.handedOver.files(),
      this.handed().files.map(({ delivery: { name }, print }) => ({ name, print })),
    ),
  );

  protected since({ delivery: { name }, print }: HandedFile): Since {
    return sinceThen(this.handedOver.files(), { name, print });
  }

  protected save(file: HandedFile): void {
    const { name, bytes } = file.delivery;
    download(name, bytes, 'audio/midi');
    this.remember([file]);
    this.tell(`${name} was handed over.`);
  }

  protected async saveAll(files = this.wanted(), what = this.asked.pieces()): Promise<void> {
    const score = this.score();
    if (!score) return;
    try {
      const zip = await this.files.zip(files.map(({ delivery }) => delivery));
      download(fileNameOf([score.title, ...what], '.zip'), zip, 'application/zip');
      this.remember(files);
      this.tell(`${counted(files)} handed over in one zip.`);
    } catch (problem) {
      this.said.set(`The zip could not be made: ${inWords(problem)}. Try again, or take the files one by one.`);
    }
  }

  /** The zip of all files that was made when the pointer came near, since a drag cannot wait for it. */
  private near: { readonly of: readonly HandedFile[]; readonly zip: Uint8Array<ArrayBuffer> } | null = null;

  protected async prepareZip(): Promise<void> {
    const of = this.wanted();
    if (this.near?.of === of || this.written.isLoading()) return;
    const zip = await this.files.zip(of.map(({ delivery }) => delivery)).catch(() => null);
    if (zip) this.near = { of, zip };
  }

  protected dragAll(event: DragEvent): void {
    const of = this.wanted();
    const zip = this.near?.of === of ? this.near.zip : null;
    this.out.startZip(event, fileNameOf([this.score()?.title ?? '', ...this.asked.pieces()], '.zip'), zip);
  }

  /** What was let go of where nobody takes it was not handed over. */
  protected dragged({ dataTransfer }: DragEvent): void {
    if (this.near && dataTransfer && dataTransfer.dropEffect !== 'none') this.remember(this.near.of);
  }

  protected putDrum(drum: MidiNote, key: MidiNote): void {
    this.ownKeys.put(
      this.drums().map(([own]) => own),
      drum,
      key,
    );
  }

  protected ask(asked: Asked): void {
    this.asked.choose(asked);
    this.said.set('');
  }

  protected saveChanged(): void {
    const [only] = this.changed();
    if (this.folder()) void this.saveInto(this.changed());
    else if (only && this.changed().length === 1) this.save(only);
    else void this.saveAll(this.changed(), ['changed']);
  }

  protected async chooseFolder(): Promise<void> {
    try {
      const folder = await chosenFolder();
      if (!folder) return;
      this.folder.set(folder);
      await this.saveInto(this.wanted());
    } catch (problem) {
      this.said.set(`This folder cannot be written: ${inWords(problem)}. Choose another one, or take a zip.`);
    }
  }

  /** Writes files into a folder of the song's own inside of the chosen one. */
  private async saveInto(files: readonly HandedFile[]): Promise<void> {
    const [score, folder] = [this.score(), this.folder()];
    if (!score || !folder) return;
    // All files of a song, whichever go, lie in one folder; what is less than the song lies beside it.
    const name = fileNameOf([score.title, ...(this.asked.ofSong() ? [] : this.asked.pieces())], '');
    try {
      await writeInto(
        folder,
        name,
        files.map(({ delivery }) => delivery),
      );
      this.remember(files);
      this.tell(`${counted(files)} handed over into the folder “${name}” in “${folder.name}”.`);
    } catch (problem) {
      this.folder.set(null);
      this.said.set(
        `The folder “${folder.name}” cannot be written: ${inWords(problem)}. Choose it again, or take a zip.`,
      );
    }
  }

  /** What is less than the song is looked for by nobody when the song goes out again. */
  private remember(files: readonly HandedFile[]): void {
    if (this.asked.ofSong()) this.handedOver.remember(files, this.handed().files);
  }

  private tell(text: string): void {
    this.said.set(text);
    this.guide.finish();
  }
}
