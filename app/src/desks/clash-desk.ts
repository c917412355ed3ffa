import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { soundingId } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import type { Part, PartId } from '@fendro/core/song/schema';
import { BURIED, buriedIn, crowdedIn, levelDecibels, levelFor, type Buried } from '@fendro/core/sounding/clashes';
import { soundingNotes } from '@fendro/core/sounding/stages';
import { groundOf } from '@fendro/core/song/ground';
import type { MidiNote } from '@fendro/core/theory/units';
import { nameIn } from '../ui/spoken';
import { TakeLoudness } from '../sound/take-loudness';
import { selectMusic, selectSection } from '../store/selectors';
import { BandDesk } from './band-desk';

/** Changes come in runs: only after so long, in ms, is measured again. */
const SETTLED_MS = 500;

/** What is in the way of a part, and what helps. */
export interface Clash {
  readonly text: string;
  readonly help: { readonly words: string; readonly level: number } | null;
}

/**
 * Parts that are buried, or that sit on one another, in the section in view: each part is rendered by itself and its
 * loudness measured, then its level counts as it stands.
 */
@Injectable({ providedIn: 'root' })
export class ClashDesk {
  private readonly store = inject(Store);
  private readonly loudness = inject(TakeLoudness);
  private readonly band = inject(BandDesk);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  /** True while somebody looks: measuring takes a second for each part. */
  readonly watched = signal(false);
  readonly listening = signal(false);
  /** At full level, in LUFS. */
  private readonly measured = signal<ReadonlyMap<PartId, number>>(new Map());

  private readonly playing = computed((): readonly Part[] => {
    const [music, section] = [this.music(), this.section()];
    if (!music || !section) return [];
    return music.score.parts.filter(({ id, muted }) => !muted && soundingId(section, id, music.heard) !== null);
  });
  /** What is measured: takes and instruments, not levels. */
  private readonly asked = computed(() => {
    const [music, section] = [this.music(), this.section()];
    if (!this.watched() || !music || !section) return null;
    return this.playing()
      .map(({ id, instrument, octave, layers }) =>
        [soundingId(section, id, music.heard), instrument, octave, JSON.stringify(layers)].join(' '),
      )
      .join('|');
  });

  constructor() {
    effect((onCleanup) => {
      const asked = this.asked();
      // What was measured of other takes says nothing of these.
      this.measured.set(new Map());
      if (asked === null) return;
      const timer = setTimeout(() => {
        void untracked(() => this.measure());
      }, SETTLED_MS);
      onCleanup(() => {
        clearTimeout(timer);
      });
    });
  }

  private async measure(): Promise<void> {
    const [music, section, asked] = [this.music(), this.section(), this.asked()];
    if (!music || !section) return;
    this.listening.set(true);
    const found = new Map<PartId, number>();
    for (const part of this.playing()) {
      const loudness = await this.loudness.of(music, section, part);
      if (this.asked() !== asked) return;
      if (loudness !== null) found.set(part.id, loudness);
    }
    this.measured.set(found);
    this.listening.set(false);
  }

  private readonly buried = computed((): ReadonlyMap<PartId, Buried> => {
    const measured = this.measured();
    const standing = new Map(
      this.playing().flatMap(({ id, level }) => {
        const loudness = measured.get(id);
        return loudness === undefined ? [] : [[id, loudness + levelDecibels(level)] as const];
      }),
    );
    return new Map(buriedIn(standing).map((found) => [found.part, found]));
  });

  private readonly crowded = computed(() => {
    const [music, section] = [this.music(), this.section()];
    if (!this.watched() || !music || !section) return [];
    const pitched = this.playing().filter(({ role }) => !isDrumRole(role));
    return crowdedIn(
      new Map(
        pitched.map((part) => [
          part.id,
          soundingNotes(music, section, part).map((note) => ({ ...note, pitch: note.pitch + 12 * (part.octave ?? 0) })),
        ]),
      ),
    );
  });

  private noteName(pitch: MidiNote): string {
    const [music, section] = [this.music(), this.section()];
    return music && section ? nameIn(groundOf(music.score, section), pitch) : '';
  }

  private nameOf(id: PartId): string {
    return this.playing().find((part) => part.id === id)?.name ?? '';
  }

  /** What is in a part's way. */
  of(part: Part): readonly Clash[] {
    const buried = this.buried().get(part.id);
    const level = buried && Math.ceil(levelFor(levelDecibels(part.level) + buried.under - BURIED + 1));
    return [
      ...(buried
        ? [
            {
              text: `${buried.under} dB under ${this.nameOf(buried.loudest)}`,
              help: level !== undefined && level <= 100 ? { words: `Raise to ${level}`, level } : null,
            },
          ]
        : []),
      ...this.crowded().flatMap(({ parts, low, high }) => {
        const other = parts.find((id) => id !== part.id);
        if (!parts.includes(part.id) || other === undefined) return [];
        return [{ text: `sits on ${this.nameOf(other)}, ${this.noteName(low)} to ${this.noteName(high)}`, help: null }];
      }),
    ];
  }

  /** True where nothing is in any part's way, by what was measured last. */
  readonly clear = computed(() => this.measured().size > 0 && this.buried().size === 0 && this.crowded().length === 0);

  raise(part: Part, level: number): void {
    this.band.change(part, { level });
  }
}
