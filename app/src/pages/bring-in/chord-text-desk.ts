import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { readChart, type Chart } from '@fendro/core/files/incoming/chart';
import { chartInto, chartProblem, groundOfChart } from '@fendro/core/files/incoming/chart-song';
import { STYLES, styleOf, withStyle } from '@fendro/core/styles/styles';
import { startScore } from '@fendro/core/styles/band';
import type { Style } from '@fendro/core/song/style';
import type { Key } from '@fendro/core/theory/key';
import { Library } from '../../desks/library';
import { newId } from '../../store/ids';
import { selectOwnScore } from '../../store/selectors';
import { Shelf } from '../../store/shelf';
import { ScoreActions } from '../../store/song.actions';
import { NoteNames } from '../../ui/note-names';
import { tabMemory } from '../../ui/page-memory';

const KEPT = 'fendro chords as text';
const UNTITLED = 'From a chord chart';

/** Chords as they are written: read while they are typed, and brought in as a song of its own or into the present one. */
@Injectable()
export class ChordTextDesk {
  private readonly store = inject(Store);
  private readonly library = inject(Library);
  private readonly shelf = inject(Shelf);
  readonly names = inject(NoteNames);
  readonly score = this.store.selectSignal(selectOwnScore);

  readonly text = signal(tabMemory.get(KEPT) ?? '');
  /** The key that the writer gave it; null where it is the chart's own. */
  private readonly wished = signal<Key | null>(null);
  readonly styleId = signal(STYLES[0]?.id ?? '');
  /** Why it could not be made a song. */
  readonly failure = signal<string | null>(null);

  readonly reading = computed(() => readChart(this.text(), { german: this.names.german() }, this.wished()));
  readonly chart = computed((): Chart | null => {
    const reading = this.reading();
    return reading.ok ? reading.chart : null;
  });
  readonly key = computed((): Key => this.chart()?.key ?? { tonic: 0, scale: 'major' });
  readonly styles = computed((): readonly Style[] => [...this.shelf.contents().styles, ...STYLES]);
  private readonly style = computed(
    () => this.styles().find(({ id }) => id === this.styleId()) ?? styleOf(this.styleId()),
  );

  /** What a writer should know before it is brought in; null where nothing was written yet. */
  readonly problem = computed(() => {
    const reading = this.reading();
    return reading.ok || this.text().trim() === '' ? null : reading.reason;
  });
  /** Why it does not go into the song that is open. */
  readonly intoProblem = computed(() => {
    const [chart, score] = [this.chart(), this.score()];
    return chart && score ? chartProblem(score, chart) : null;
  });

  write(text: string): void {
    this.text.set(text);
    this.wished.set(null);
    this.failure.set(null);
    tabMemory.set(KEPT, text);
  }

  setKey(key: Key): void {
    this.wished.set(key);
  }

  async open(file: File): Promise<void> {
    this.write(await file.text());
  }

  /** @returns true where it is a song now, and open */
  async asSong(): Promise<boolean> {
    const chart = this.chart();
    if (!chart) return false;
    const style = this.style();
    const title = chart.title || UNTITLED;
    const started = withStyle(startScore(title, groundOfChart(chart, style), style, newId), style);
    const { score, takes } = chartInto({ ...started, sections: [], order: [] }, chart, newId);
    const result = await this.library.adopt(score, takes);
    if (!result.ok) this.failure.set(result.reason);
    return result.ok;
  }

  /**
   * As one step that can be undone.
   *
   * @returns true where it was brought in
   */
  intoSong(): boolean {
    const [chart, own] = [this.chart(), this.score()];
    if (!chart || !own || this.intoProblem() !== null) return false;
    const { score, takes, occurrence } = chartInto(own, chart, newId);
    this.store.dispatch(
      ScoreActions.revised({ name: 'bring in a chord chart', score, takes, released: [], view: occurrence }),
    );
    return true;
  }
}
