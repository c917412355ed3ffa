import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { loudnessMoved, octavesMoved, rested, type Stretch } from '@fendro/core/song/bar-edit';
import { isDrumRole } from '@fendro/core/song/roles';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { Notices } from '../store/notices';
import { selectBar, selectPart } from '../store/selectors';
import { sessionFeature } from '../store/session';
import { spliced } from '@fendro/core/shaping/place';
import type { Notes } from '@fendro/core/shaping/room';
import { News } from '../store/news';
import { TakeEdits } from './take-edits';

/** By how much velocity selected bars get louder or softer at a time. */
const LOUDER_BY = 6;

/** What is done to the selected bars of the part in focus: each edit is a take, whose parent is named. */
@Injectable({ providedIn: 'root' })
export class BarsDesk {
  private readonly store = inject(Store);
  private readonly notices = inject(Notices);
  private readonly news = inject(News);
  private readonly edits = inject(TakeEdits);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly bar = this.store.selectSignal(selectBar);

  private readonly stretch = computed((): Stretch | null => {
    const bars = this.bars();
    return bars && { from: bars.from * this.bar(), to: bars.to * this.bar() };
  });
  /** True where the part in focus plays in the selected bars. */
  readonly canEdit = computed(() => {
    const [take, stretch] = [this.edits.take(), this.stretch()];
    return (
      take !== null && stretch !== null && take.notes.some(({ start }) => start >= stretch.from && start < stretch.to)
    );
  });
  /** Drums have no octaves. */
  readonly hasOctaves = computed(() => this.canEdit() && !isDrumRole(this.part()?.role ?? 'drums'));

  rest(): void {
    const stretch = this.stretch();
    if (!stretch) return;
    this.edits.edit({ name: 'let bars rest' }, (notes, picked) => ({ notes: rested(notes, stretch), picked }));
  }

  octave(by: 1 | -1): void {
    const part = this.part();
    if (!part || !this.hasOctaves()) return;
    const reach = instrumentOf(part.instrument);
    this.step(
      by > 0 ? 'move bars an octave up' : 'move bars an octave down',
      'octaves',
      by,
      (notes, stretch, octaves) => {
        const moved = octavesMoved(notes, stretch, octaves, reach);
        if (!moved)
          this.notices.say(
            `${reach.name} does not reach an octave ${by > 0 ? 'higher' : 'lower'} than these bars; nothing was changed.`,
          );
        return moved;
      },
    );
  }

  louder(by: 1 | -1): void {
    this.step(by > 0 ? 'make bars louder' : 'make bars softer', 'loudness', by, (notes, stretch, steps) =>
      loudnessMoved(notes, stretch, steps * LOUDER_BY),
    );
  }

  /** True where another take is heard in place of the chosen one, and bars are selected. */
  readonly canPut = computed(() => this.stretch() !== null && this.edits.rival() !== null);

  /** Puts the selected bars of the heard take into the chosen one: a phrase is put together of several takes. */
  put(): void {
    const [stretch, room] = [this.stretch(), this.edits.room()];
    if (!stretch || !room) return;
    const made = this.edits.mergeHeard(
      'put bars together',
      (chosen, heard) => spliced(chosen, heard, stretch, room).notes,
    );
    if (made) this.news.say('The selected bars of the heard take are in the chosen one now');
  }

  private step(
    name: string,
    kind: string,
    by: number,
    change: (notes: Notes, stretch: Stretch, total: number) => Notes | null,
  ): void {
    const stretch = this.stretch();
    if (!stretch) return;
    this.edits.step({ name, kind: `${kind} ${stretch.from} ${stretch.to}` }, by, (notes, total) =>
      change(notes, stretch, total),
    );
  }
}
