import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChild } from '@angular/core';
import { sortedBy } from '../ui/sorted-by';
import { METRE_CHOICES, SCALE_CHOICES, TEMPO_BOUNDS, TEMPO_TOLD, tonicChoices } from '../ui/ground-choices';
import { MatTableModule } from '@angular/material/table';
import { ReactiveFormsModule, FormControl, FormGroup } from '@angular/forms';
import { MatSortModule, type Sort } from '@angular/material/sort';
import { MatInput } from '@angular/material/input';
import { MatFormField } from '@angular/material/form-field';
import { FileButton } from '../ui/fields/file-button';
import { FindField } from '../ui/fields/find-field';
import { NumberField } from '../ui/fields/number-field';
import { ChoiceField, type Choice } from '../ui/fields/choice-field';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Ground, Song } from '@fendro/core/song/schema';
import { groundFor } from '@fendro/core/styles/band';
import type { Style } from '@fendro/core/song/style';
import { STYLES, styleOf } from '@fendro/core/styles/styles';
import { tonicsFor } from '@fendro/core/theory/key';
import { METRES, metreName } from '@fendro/core/theory/metre';
import { modesOf, scaleOf } from '@fendro/core/theory/scale';
import { Notices } from '../store/notices';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import { Backup } from '../desks/backup';
import { Library, type Result, type SongEntry } from '../desks/library';
import { SongFiles } from '../desks/song-files';
import { Shelf } from '../store/shelf';
import { selectSong } from '../store/selectors';
import { download } from '../ui/download';
import { inWords } from '../ui/in-words';

const looksLikeZip = ([p, k]: Uint8Array): boolean => p === 0x50 && k === 0x4b;

/** All songs on this machine, and the beginning of a new one. */
@Component({
  selector: 'fd-songs',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    DatePipe,
    RouterLink,
    MatButton,
    MatIconButton,
    MatIcon,
    ChoiceField,
    NumberField,
    FindField,
    FileButton,
    MatFormField,
    MatInput,
    MatSortModule,
    MatTableModule,
    ReactiveFormsModule,
  ],
  templateUrl: './songs.html',
  styleUrls: ['./pages.scss', './songs.scss'],
})
export class Songs {
  private readonly library = inject(Library);
  private readonly files = inject(SongFiles);
  private readonly backup = inject(Backup);
  /** While everything is being packed. */
  protected readonly packing = signal(false);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly state = inject(Store).selectSignal(selectSong);
  /** Null until they have been read. */
  private readonly listed = signal<readonly SongEntry[] | null>(null);
  protected readonly columns = ['title', 'bars', 'tempo', 'changed', 'acts'];
  /** By which column, and which way; as they were changed where none is asked for. */
  protected readonly sorted = signal<Sort>({ active: '', direction: '' });
  protected readonly songs = computed(() => sortedBy(this.listed() ?? [], this.sorted()));
  protected readonly openId = computed(() => this.state().open?.id ?? null);
  protected readonly renaming = signal<string | null>(null);
  protected readonly fileProblem = signal<string | null>(null);
  protected readonly listProblem = signal<string | null>(null);
  /** What stands below the list comes with it, so that nothing moves away under the pointer. */
  protected readonly listIsThere = computed(() => this.listed() !== null || this.listProblem() !== null);

  private readonly shelf = inject(Shelf);
  private readonly allStyles = computed(() => [...this.shelf.contents().styles, ...STYLES]);
  private readonly style = (id: string): Style => this.allStyles().find((style) => style.id === id) ?? styleOf(id);
  protected readonly styles = computed((): readonly Choice<string>[] =>
    this.allStyles().map(({ id, name, family }) => ({ value: id, text: name, group: family })),
  );
  protected readonly scales = SCALE_CHOICES;
  protected readonly metres = METRE_CHOICES;
  protected readonly tempoBounds = TEMPO_BOUNDS;
  protected readonly tempoTold = TEMPO_TOLD;
  protected readonly form = new FormGroup({ title: new FormControl('', { nonNullable: true }) });
  /** The ground of the song to be. */
  protected readonly draft = signal({ tonic: 0, scale: 'major', metre: '4/4', tempo: 96, style: STYLES[0]?.id ?? '' });
  protected readonly tonics = computed(() => tonicChoices(this.draft().scale));
  /** What the same notes are called from each degree of the scale. */
  protected readonly modesText = computed(() =>
    modesOf(scaleOf(this.draft().scale))
      .flatMap(({ degree, scale }) =>
        scale && degree !== '1' ? [`${scale.name} from ${degree.replace('b', '♭').replace('#', '♯')}`] : [],
      )
      .join(', '),
  );
  protected readonly styleText = computed(() => {
    const { family, moods, tempo, metres } = this.style(this.draft().style);
    return `${family}; ${moods.join(', ')}. At home in ${metres.join(', ')} at ${tempo.low}–${tempo.high}.`;
  });

  private readonly tempo = viewChild.required(NumberField);

  constructor() {
    void this.refresh();
  }

  private async refresh(): Promise<void> {
    try {
      this.listed.set(await this.library.list());
      this.listProblem.set(null);
    } catch (problem) {
      this.listProblem.set(
        `The songs on this machine cannot be listed: ${inWords(problem)}. They are not lost by this; reload the page to try again.`,
      );
    }
  }

  protected set(change: Partial<ReturnType<typeof this.draft>>): void {
    this.draft.update((draft) => ({ ...draft, ...change }));
  }

  /** A style brings its usual metre and tempo; both can be changed afterwards. */
  protected setStyle(id: string): void {
    const ground = groundFor(this.style(id), { tonic: 0, scale: this.draft().scale });
    this.set({ style: id, metre: metreName(ground.metre), tempo: ground.tempo });
  }

  protected async start(event: Event): Promise<void> {
    event.preventDefault();
    if (this.tempo().refuses()) return;
    const { title } = this.form.getRawValue();
    const { tonic, scale, metre, tempo, style } = this.draft();
    const base = groundFor(this.style(style), { tonic: tonicsFor(scale)[tonic] ?? 0, scale });
    const ground: Ground = {
      ...base,
      metre: METRES.find((candidate) => metreName(candidate) === metre) ?? base.metre,
      tempo,
    };
    const result = await this.library.start(title.trim() || 'Untitled song', ground, this.style(style));
    if (result.ok) await this.router.navigateByUrl('/');
    else this.notices.say(result.reason);
  }

  protected async open(song: SongEntry): Promise<void> {
    const result = await this.library.open(song.id);
    if (!result.ok) {
      this.notices.say(
        `“${song.title}” could not be opened: ${result.reason}`,
        result.song === undefined ? undefined : { label: 'Save its stored data', run: () => void this.saveRaw(song) },
      );
      return;
    }
    if (result.remark !== null) this.notices.sayUntilRead(result.remark);
    await this.router.navigateByUrl('/');
  }

  protected async openDemo(): Promise<void> {
    const result = await this.library.openDemo();
    if (result.ok) await this.router.navigateByUrl('/');
    else this.notices.say(result.reason);
  }

  protected async duplicate(song: SongEntry): Promise<void> {
    await this.tried(`“${song.title}” could not be duplicated`, () => this.library.duplicate(song.id));
  }

  protected async rename(song: SongEntry, title: string): Promise<void> {
    this.renaming.set(null);
    if (title.trim() === '' || title === song.title) return;
    await this.tried(`“${song.title}” could not be renamed`, () => this.library.rename(song.id, title.trim()));
  }

  protected async remove(song: SongEntry): Promise<void> {
    let gone: Song | undefined;
    const done = await this.tried(`“${song.title}” could not be deleted`, async () => {
      const result = await this.library.remove(song.id);
      gone = result.gone;
      return result;
    });
    const back = gone;
    if (done)
      this.notices.say(
        `“${song.title}” was deleted.`,
        back
          ? { label: 'Put it back', run: () => void this.library.putBack(back).then(() => this.refresh()) }
          : undefined,
      );
  }

  /** Does something to a stored song; what goes wrong is told, and the list is read anew. */
  private async tried(otherwise: string, work: () => Promise<Result>): Promise<boolean> {
    const result = await work().catch((problem: unknown): Result => ({ ok: false, reason: inWords(problem) }));
    if (!result.ok) this.notices.say(`${otherwise}: ${result.reason}`);
    await this.refresh();
    return result.ok;
  }

  /** What storage holds of a song, opened or not. */
  protected async saveRaw(song: SongEntry): Promise<void> {
    download(fileNameOf([song.title, 'stored data'], '.json'), await this.library.rawFile(song.id), 'application/json');
  }

  protected async saveAll(): Promise<void> {
    this.packing.set(true);
    try {
      const { name, bytes, said } = await this.backup.write(new Date());
      download(name, bytes, 'application/zip');
      this.notices.say(said);
    } catch (problem) {
      this.notices.say(`Everything could not be saved as one file: ${inWords(problem)}. Nothing is lost by this.`);
    } finally {
      this.packing.set(false);
    }
  }

  private async bringBack(name: string, bytes: Uint8Array): Promise<void> {
    const result = await this.backup
      .read(bytes)
      .catch((problem: unknown): Result => ({ ok: false, reason: inWords(problem) }));
    this.fileProblem.set(result.ok ? null : `${name}: ${result.reason}`);
    if (result.ok && result.remark !== null) this.notices.sayUntilRead(result.remark);
    await this.refresh();
  }

  protected async openFile([file]: readonly File[]): Promise<void> {
    if (!file) return;
    const bytes = new Uint8Array(await file.arrayBuffer());
    if (looksLikeZip(bytes)) {
      await this.bringBack(file.name, bytes);
      return;
    }
    const result = await this.files.open(bytes);
    this.fileProblem.set(result.ok ? null : `${file.name}: ${result.reason}`);
    if (result.ok && result.remark !== null) this.notices.sayUntilRead(result.remark);
    if (result.ok) await this.router.navigateByUrl('/');
  }
}
