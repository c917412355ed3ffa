import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, resource, signal } from '@angular/core';
import { sortedBy } from '../../ui/sorted-by';
import { MatTableModule } from '@angular/material/table';
import { MatSortModule, type Sort } from '@angular/material/sort';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import { OWN_RESOLUTION, RESOLUTIONS, type Resolution } from '@fendro/core/files/midi/at-resolution';
import { chosenMusic, type HandedFile, type HandOver } from '@fendro/core/files/outgoing/hand-over';
import { goneSince, sinceThen, type Since } from '@fendro/core/files/outgoing/since';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import { isDrumRole } from '@fendro/core/song/roles';
import { styleIn } from '@fendro/core/styles/styles';
import { selectScore, selectTakes } from '../../store/selectors';
import { download } from '../../ui/download';
import { ChoiceField } from '../../ui/fields/choice-field';
import { inWords } from '../../ui/in-words';
import { FilesClient } from '../../work/files-client';
import { Guide } from '../../desks/guide';
import { HandedOverDesk } from '../../desks/handed-over';

const SORTED_BY = {
  file: ({ delivery }: HandedFile) => delivery.name,
  notes: ({ delivery }: HandedFile) => delivery.notes,
  size: ({ delivery }: HandedFile) => delivery.bytes.length,
};

/** The MIDI files of a song: what will be written, how, and the files themselves. */
@Component({
  selector: 'fd-midi-files',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatIcon, MatCheckbox, MatProgressBar, MatSortModule, MatTableModule],
  templateUrl: './midi-files.html',
  styleUrl: '../pages.scss',
})
export class MidiFiles {
  private readonly store = inject(Store);
  private readonly guide = inject(Guide);
  private readonly files = inject(FilesClient);
  protected readonly score = this.store.selectSignal(selectScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly handedOver = inject(HandedOverDesk);
  protected readonly said = signal('');
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
          music: chosenMusic(score, this.takes()),
          wish: {
            human: this.human(),
            apart: this.apart(),
            layersTogether: this.layersTogether(),
            drumsApart: this.drumsApart(),
            resolution: this.resolution(),
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
    computation: (now, before) => now ?? before?.value ?? { files: [], remarks: [] },
  });
  /** What holds of the song's files as a whole. */
  protected readonly remarks = computed(() => this.handed().remarks);

  protected readonly columns = ['what', 'file', 'notes', 'size', 'get'];
  /** By which column, and which way; in the order of the song where none is asked for. */
  protected readonly sorted = signal<Sort>({ active: '', direction: '' });
  protected readonly rows = computed(() => sortedBy(this.handed().files, this.sorted(), SORTED_BY));

  protected readonly muted = computed(() =>
    (this.score()?.parts ?? [])
      .filter(({ muted }) => muted)
      .map(({ name }) => name)
      .join(', '),
  );

  /** When something went out last, in words. */
  protected readonly lastTime = computed(() => {
    const at = this.handedOver.at();
    return at
      ? at.toLocaleString('en-GB', { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' })
      : null;
  });
  /** Files that are not as they went out last. */
  protected readonly changed = computed(() => this.handed().files.filter((file) => this.since(file) !== 'same'));
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
    this.handedOver.remember([file], this.handed().files);
    this.tell(`${name} was handed over.`);
  }

  protected async saveAll(files = this.handed().files, what: readonly string[] = []): Promise<void> {
    const score = this.score();
    if (!score) return;
    try {
      const zip = await this.files.zip(files.map(({ delivery }) => delivery));
      download(fileNameOf([score.title, ...what], '.zip'), zip, 'application/zip');
      this.handedOver.remember(files, this.handed().files);
      this.tell(`${files.length === 1 ? 'One file was' : `${files.length} files were`} handed over in one zip.`);
    } catch (problem) {
      this.said.set(`The zip could not be made: ${inWords(problem)}. Try again, or take the files one by one.`);
    }
  }

  protected saveChanged(): void {
    const [only] = this.changed();
    if (only && this.changed().length === 1) this.save(only);
    else void this.saveAll(this.changed(), ['changed']);
  }

  private tell(text: string): void {
    this.said.set(text);
    this.guide.finish();
  }
}
