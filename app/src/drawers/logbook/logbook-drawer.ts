import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { isDrumRole } from '@fendro/core/song/roles';
import { LogbookDesk, type LogEntry } from '../../desks/logbook-desk';
import { selectBar } from '../../store/selectors';
import { ChordSymbol } from '../../ui/chord-symbol';
import { SearchField } from '../../ui/fields/search-field';
import { HeardList, HeardOption } from '../../ui/heard-list';
import { NotePicture } from '../../ui/note-picture';
import { shapeOf, type NoteShape } from '../../ui/note-shape';

/** Height of a line, in px. */
const LINE = 40;
/** Chords of a progression that stand in a line. */
const CHORDS = 8;

/** All that was heard, the newest first: arrows hear it again, Enter brings back the whole band of that moment. */
@Component({
  selector: 'fd-logbook-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    CdkFixedSizeVirtualScroll,
    CdkVirtualForOf,
    CdkVirtualScrollViewport,
    ChordSymbol,
    HeardList,
    HeardOption,
    MatButton,
    NotePicture,
    SearchField,
  ],
  templateUrl: './logbook-drawer.html',
  styleUrls: ['../drawer.scss', './logbook-drawer.scss'],
})
export class LogbookDrawer {
  protected readonly desk = inject(LogbookDesk);
  protected readonly bar = inject(Store).selectSignal(selectBar);
  protected readonly line = LINE;
  /** The line that was gone to last, by its place. */
  protected readonly at = signal<string | null>(null);
  protected readonly current = computed(
    () => this.desk.found().find(({ place }) => String(place) === this.at()) ?? null,
  );
  protected readonly counted = computed(() => {
    const [found, all] = [this.desk.found().length, this.desk.count()];
    return found === all ? `${all} heard` : `${found} of ${all} heard`;
  });

  protected byPlace(_index: number, { place }: LogEntry): number {
    return place;
  }

  protected idOf({ place }: LogEntry): string {
    return String(place);
  }

  private entry(id: string): LogEntry | undefined {
    return this.desk.found().find(({ place }) => String(place) === id);
  }

  protected hear(id: string): void {
    this.at.set(id);
    const entry = this.entry(id);
    if (entry) this.desk.hear(entry);
  }

  protected restore(id: string): void {
    this.at.set(id);
    const entry = this.entry(id);
    if (entry) this.desk.restore(entry);
  }

  protected shape({ part }: LogEntry): NoteShape {
    return shapeOf(part?.colour ?? 0, isDrumRole(part?.role ?? 'melody'));
  }

  protected symbols({ take }: LogEntry) {
    return take.of === 'harmony' ? take.chords.slice(0, CHORDS) : [];
  }

  protected said({ when, where, who, what }: LogEntry): string {
    return [when, where, who, what].filter(Boolean).join(', ');
  }
}
