import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import type { LineId } from '@fendro/core/song/schema';
import type { Route } from '../../storage/device-schema';
import { Shelf } from '../../store/shelf';
import { selectOwnScore } from '../../store/selectors';
import { songFeature } from '../../store/song.reducer';
import { HARMONY } from '@fendro/core/song/schema';

/** A line of the song that is open, and where it goes out. */
export type LineRoute = Omit<Route, 'id'> & { readonly line: LineId };

/** Where the lines of the song that is open go out, as the shelf keeps it by song and line. */
@Injectable({ providedIn: 'root' })
export class Routes {
  private readonly shelf = inject(Shelf);
  private readonly score = inject(Store).selectSignal(selectOwnScore);
  private readonly open = inject(Store).selectSignal(songFeature.selectOpen);
  private readonly lines = computed((): readonly LineId[] => [
    ...(this.score()?.parts ?? []).map(({ id }): LineId => id),
    HARMONY,
  ]);
  readonly all = computed((): readonly LineRoute[] => {
    const known = new Map(this.shelf.contents().routes.map((route) => [route.id, route]));
    return this.lines().flatMap((line) => {
      const route = known.get(this.nameOf(line));
      return route ? [{ line, port: route.port, channel: route.channel, here: route.here }] : [];
    });
  });
  /** Lines that sound elsewhere only. */
  readonly away = computed(
    () =>
      new Set(
        this.all()
          .filter(({ here }) => !here)
          .map(({ line }) => line),
      ),
  );

  of(line: LineId): LineRoute | null {
    return this.all().find((route) => route.line === line) ?? null;
  }

  set({ line, port, channel, here }: LineRoute): void {
    this.shelf.put('routes', { id: this.nameOf(line), port, channel, here });
  }

  take(line: LineId): void {
    this.shelf.remove('routes', this.nameOf(line));
  }

  private nameOf(line: LineId): string {
    return `${this.open()?.id ?? ''}/${line}`;
  }
}
