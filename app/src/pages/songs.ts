import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Ground, Song } from '@fendro/core/song/schema';
import { groundFor } from '@fendro/core/styles/band';
import type { Style } from '@fendro/core/song/style';
import { STYLES, styleOf } from '@fendro/core/styles/styles';
import { tonicsFor } from '@fendro/core/theory/key';
import { METRES, metreName } from '@fendro/core/theory/metre';
import { pitchClassOf, printedName } from '@fendro/core/theory/pitch';
import { modesOf, scaleOf } from '@fendro/core/theory/scale';
import { readTempo, SCALE_GROUPS } from '../ui/scale-groups';
import { Notices } from '../store/notices';
import { fileNameOf } from '@fendro/core/files/file-names';
import { Library, type Result, type SongEntry } from '../desks/library';
import { Shelf } from '../store/shelf';
import { selectSong } from '../store/selectors';
import { download } from '../ui/download';
import { Icon } from '../ui/icon';
import { inWords } from '../ui/in-words';

/** All songs on this machine, and the beginning of a new one. */
@Component({
  selector: 'fd-songs',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DatePipe, RouterLink, Icon],
  templateUrl: './songs.html',
  styleUrls: ['./pages.scss', './songs.scss'],
})
export class Songs {
  private readonly library = inject(Library);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly state = inject(Store).selectSignal(selectSong);
  protected readonly songs = signal<readonly SongEntry[]>([]);
  protected readonly openId = computed(() => this.state().open?.id ?? null);
  protected readonly renaming = signal<string | null>(null);
  protected readonly fileProblem = signal<string | null>(null);
  protected readonly listProblem = signal<string | null>(null);

  private readonly shelf = inject(Shelf);
  protected readonly styles = computed(() => [...this.shelf.contents().styles, ...STYLES]);
  private readonly style = (id: string): Style => this.styles().find((style) => style.id === id) ?? styleOf(id);
  protected readonly groups = SCALE_GROUPS;
  protected readonly metres = METRES.map(metreName);
  protected readonly draft = signal({
    title: '',
    tonic: 0,
    scale: 'major',
    metre: '4/4',
    tempo: '96',
    style: STYLES[0]?.id ?? '',
  });
  protected readonly tonics = computed(() =>
    tonicsFor(this.draft().scale).map((tonic) => ({ value: pitchClassOf(tonic), name: printedName(tonic) })),
  );
  protected readonly tempoProblem = computed(() => readTempo(this.draft().tempo).problem);
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

  constructor() {
    void this.refresh();
  }

  private async refresh(): Promise<void> {
    try {
      this.songs.set(await this.library.list());
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
    this.set({ style: id, metre: metreName(ground.metre), tempo: String(ground.tempo) });
  }

  protected async start(event: Event): Promise<void> {
    event.preventDefault();
    if (this.tempoProblem() !== null) return;
    const { title, tonic, scale, metre, tempo, style } = this.draft();
    const base = groundFor(this.style(style), { tonic: tonicsFor(scale)[tonic] ?? 0, scale });
    const ground: Ground = {
      ...base,
      metre: METRES.find((candidate) => metreName(candidate) === metre) ?? base.metre,
      tempo: readTempo(tempo).tempo ?? base.tempo,
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

  protected async openFile(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    const result = await this.library.openFile(new Uint8Array(await file.arrayBuffer()));
    this.fileProblem.set(result.ok ? null : `${file.name}: ${result.reason}`);
    if (result.ok && result.remark !== null) this.notices.sayUntilRead(result.remark);
    if (result.ok) await this.router.navigateByUrl('/');
  }
}
