import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { sortedBy } from '../ui/sorted-by';
import {
  MatCell,
  MatCellDef,
  MatColumnDef,
  MatHeaderCell,
  MatHeaderCellDef,
  MatHeaderRow,
  MatHeaderRowDef,
  MatRow,
  MatRowDef,
  MatTable,
} from '@angular/material/table';
import { MatSort, MatSortHeader, type Sort } from '@angular/material/sort';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { zipFiles } from '@fendro/core/files/archive';
import {
  asWritten,
  deliverChords,
  deliverLines,
  deliverOneTrack,
  deliverSection,
  deliverSong,
  linesOf,
  type Delivery,
} from '@fendro/core/files/deliver';
import { fileNameOf, withNamesApart } from '@fendro/core/files/file-names';
import { layOut, NOTHING_HEARD, songTicks, type Music } from '@fendro/core/song/resolve';
import { styleIn } from '@fendro/core/styles/styles';
import { songCourse, tempoOf } from '@fendro/core/sounding/course';
import { keySignature } from '@fendro/core/theory/key';
import { metreName } from '@fendro/core/theory/metre';
import { printedName } from '@fendro/core/theory/pitch';
import { scaleOf } from '@fendro/core/theory/scale';
import { Library } from '../desks/library';
import { selectHeardChoices, selectScore, selectTakes } from '../store/selectors';
import { download } from '../ui/download';
import { Guide } from '../desks/guide';

interface Row {
  readonly what: string;
  readonly delivery: Delivery;
  /** What its reader would not expect, where the whole song does not say it already. */
  readonly remarks: readonly string[];
}

const SORTED_BY = {
  file: ({ delivery }: Row) => delivery.name,
  notes: ({ delivery }: Row) => delivery.notes,
  size: ({ delivery }: Row) => delivery.bytes.length,
};

/** What will be written, and the files themselves. */
@Component({
  selector: 'fd-deliver',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    RouterLink,
    MatButton,
    MatIcon,
    MatCheckbox,
    MatSort,
    MatSortHeader,
    MatTable,
    MatColumnDef,
    MatHeaderCell,
    MatHeaderCellDef,
    MatCell,
    MatCellDef,
    MatHeaderRow,
    MatHeaderRowDef,
    MatRow,
    MatRowDef,
  ],
  templateUrl: './deliver.html',
  styleUrl: './pages.scss',
})
export class Deliver {
  private readonly store = inject(Store);
  private readonly library = inject(Library);
  private readonly guide = inject(Guide);
  protected readonly score = this.store.selectSignal(selectScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  protected readonly undecided = computed(() => this.store.selectSignal(selectHeardChoices)().length);
  protected readonly said = signal('');
  /** Files carry what hands add to the notes, as it is heard, or the notes as they are written. */
  protected readonly human = signal(true);
  /** Voices of ensembles are tracks and files of their own. */
  protected readonly apart = signal(true);
  protected readonly hasEnsembles = computed(() => (this.score()?.parts ?? []).some(({ role }) => role === 'ensemble'));
  protected readonly hasHumans = computed(() => {
    const score = this.score();
    return (
      score !== null &&
      (score.parts.some(({ brief }) => brief.humanise > 0) || styleIn(score, score.ground.style).feel !== undefined)
    );
  });

  /** The chosen takes, as they are handed over. */
  private readonly music = computed((): Music | null => {
    const score = this.score();
    if (!score) return null;
    return { score: this.human() ? score : asWritten(score), takes: this.takes(), heard: NOTHING_HEARD };
  });

  private readonly oneTrack = computed(() => {
    const music = this.music();
    return music ? deliverOneTrack(music, { apart: this.apart() }) : null;
  });

  /** What holds of the song's files as a whole. */
  protected readonly remarks = computed((): readonly string[] => {
    const [music, oneTrack] = [this.music(), this.oneTrack()];
    if (!music || !oneTrack) return [];
    const { remarks } = deliverSong(music, { apart: this.apart() });
    return oneTrack.ok ? remarks : [...remarks, oneTrack.reason];
  });

  protected readonly columns = ['what', 'file', 'notes', 'size', 'get'];
  /** By which column, and which way; in the order of the song where none is asked for. */
  protected readonly sorted = signal<Sort>({ active: '', direction: '' });
  protected readonly rows = computed(() => sortedBy(this.inOrder(), this.sorted(), SORTED_BY));
  private readonly inOrder = computed((): Row[] => {
    const [music, oneTrack] = [this.music(), this.oneTrack()];
    if (!music || !oneTrack) return [];
    const options = { apart: this.apart() };
    const lines = linesOf(music, options);
    const chords = deliverChords(music);
    const files = [
      { what: 'The song, a track for each part', delivery: deliverSong(music, options) },
      ...(oneTrack.ok ? [{ what: 'The song in one track', delivery: oneTrack.delivery }] : []),
      ...deliverLines(music, options).map((delivery, index) => ({ what: `${lines[index]?.name} alone`, delivery })),
      ...(chords ? [{ what: 'The chords, as voiced and struck', delivery: chords }] : []),
      ...music.score.sections.flatMap((section) => {
        const delivery = deliverSection(music, section.id, options);
        return delivery ? [{ what: `${section.name}, all parts`, delivery }] : [];
      }),
    ];
    const apart = withNamesApart(files.map(({ delivery }) => delivery));
    const said = this.remarks();
    return files.map(({ what, delivery }, index) => ({
      what,
      delivery: apart[index] ?? delivery,
      remarks: delivery.remarks.filter((remark) => !said.includes(remark)),
    }));
  });

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
      `${printedName(tonic)} ${scaleOf(scale).name} (signature: ${signature}), ${metreName(metre)}, ` +
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

  protected save({ delivery }: Row): void {
    download(delivery.name, delivery.bytes, 'audio/midi');
    this.tell(`${delivery.name} was handed over.`);
  }

  protected saveAll(): void {
    const score = this.score();
    if (!score) return;
    download(
      fileNameOf([score.title], '.zip'),
      zipFiles(this.rows().map(({ delivery }) => delivery)) as BlobPart,
      'application/zip',
    );
    this.tell(`${this.rows().length} files were handed over in one zip.`);
  }

  protected saveSongFile(): void {
    const text = this.library.songFile();
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
