import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, resource, signal } from '@angular/core';
import { sortedBy } from '../ui/sorted-by';
import { MatTableModule } from '@angular/material/table';
import { MatSortModule, type Sort } from '@angular/material/sort';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { chosenMusic, type HandedFile, type HandOver } from '@fendro/core/files/outgoing/hand-over';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import { isDrumRole } from '@fendro/core/song/roles';
import { layOut, songTicks } from '@fendro/core/song/resolve';
import { styleIn } from '@fendro/core/styles/styles';
import { songCourse, tempoOf } from '@fendro/core/sounding/course';
import { keySignature } from '@fendro/core/theory/key';
import { metreText } from '@fendro/core/theory/metre';
import { printedName } from '@fendro/core/theory/pitch';
import { scaleOf } from '@fendro/core/theory/scale';
import { SongFiles } from '../desks/song-files';
import { selectHeardChoices, selectScore, selectTakes } from '../store/selectors';
import { download } from '../ui/download';
import { inWords } from '../ui/in-words';
import { FilesClient } from '../work/files-client';
import { Guide } from '../desks/guide';

const SORTED_BY = {
  file: ({ delivery }: HandedFile) => delivery.name,
  notes: ({ delivery }: HandedFile) => delivery.notes,
  size: ({ delivery }: HandedFile) => delivery.bytes.length,
};

/** What will be written, and the files themselves. */
@Component({
  selector: 'fd-deliver',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, MatButton, MatIcon, MatCheckbox, MatProgressBar, MatSortModule, MatTableModule],
  templateUrl: './deliver.html',
  styleUrl: './pages.scss',
})
export class Deliver {
  private readonly store = inject(Store);
  private readonly songFiles = inject(SongFiles);
  /** Whether the sounds of guides go along in the song file. */
  protected readonly withSounds = signal(false);
  protected readonly hasGuides = computed(() => (this.score()?.guides?.length ?? 0) > 0);
  private readonly guide = inject(Guide);
  private readonly files = inject(FilesClient);
  protected readonly score = this.store.selectSignal(selectScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  protected readonly undecided = computed(() => this.store.selectSignal(selectHeardChoices)().length);
  protected readonly said = signal('');
  /** Files carry what hands add to the notes, as it is heard, or the notes as they are written. */
  protected readonly human = signal(true);
  /** Voices of ensembles are tracks and files of their own. */
  protected readonly apart = signal(true);
  /** Instruments that double a part are in its own track. */
  protected readonly layersTogether = signal(false);
  /** Every drum is a track of its own, by its name. */
  protected readonly drumsApart = signal(false);
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

  protected readonly summary = computed(() => {
    const score = this.score();
    if (!score) return '';
    const { tonic, scale, tempo, metre } = score.ground;
    const ticks = songTicks(score);
    const seconds = Math.round(tempoOf(songCourse(score), score).secondsAt(ticks));
    const bars = layOut(score).reduce((total, { section }) => total + section.bars, 0);
    const own = score.sections.some(({ ground }) => Object.keys(ground).length > 0);
    const { accidentals } = keySignature({ tonic, scale });
    const signature =
      accidentals === 0
        ? 'no accidentals'
        : `${Math.abs(accidentals)} ${accidentals > 0 ? 'sharp' : 'flat'}${Math.abs(accidentals) === 1 ? '' : 's'}`;
    return (
      `${printedName(tonic)} ${scaleOf(scale).name} (signature: ${signature}), ${metreText(metre)}, ` +
      `${tempo} beats a minute, ${bars} bars, ` +
      `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}. ` +
      `${own ? 'Sections with a key, metre or tempo of their own carry it. ' : ''}Every file carries ` +
      'tempo, metre, key, names and section markers; drums are on channel 10.'
    );
  });

  protected readonly muted = computed(() =>
    (this.score()?.parts ?? [])
      .filter(({ muted }) => muted)
      .map(({ name }) => name)
      .join(', '),
  );

  protected save({ delivery }: HandedFile): void {
    download(delivery.name, delivery.bytes, 'audio/midi');
    this.tell(`${delivery.name} was handed over.`);
  }

  protected async saveAll(): Promise<void> {
    const score = this.score();
    const files = this.handed().files.map(({ delivery }) => delivery);
    if (!score) return;
    try {
      download(fileNameOf([score.title], '.zip'), await this.files.zip(files), 'application/zip');
      this.tell(`${files.length} files were handed over in one zip.`);
    } catch (problem) {
      this.said.set(`The zip could not be made: ${inWords(problem)}. Try again, or take the files one by one.`);
    }
  }

  protected async saveSongFile(): Promise<void> {
    const text = await this.songFiles.write(this.withSounds());
    const score = this.score();
    if (text === null || !score) return;
    download(fileNameOf([score.title], '.fendro'), text, 'application/json');
    this.tell('The song file was handed over.');
  }

  private tell(text: string): void {
    this.said.set(text);
    this.guide.finish();
  }
}
