import { inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { partAsking } from '@fendro/core/compose/asking';
import { groundOf } from '@fendro/core/song/ground';
import { harmonyTake, sectionTicks, soundingId } from '@fendro/core/song/resolve';
import { inDraftingOrder, listenedTo } from '@fendro/core/song/roles';
import {
  HARMONY,
  type LineId,
  type Part,
  type PartTake,
  type Score,
  type Take,
  type TakeId,
} from '@fendro/core/song/schema';
import { withChoices } from '@fendro/core/song/section';
import type { Style } from '@fendro/core/song/style';
import { draftedTake } from '@fendro/core/song/take';
import { STYLES, withStyle } from '@fendro/core/styles/styles';
import { metreName, METRES } from '@fendro/core/theory/metre';
import { Playback } from '../sound/playback';
import { selectHeard, selectOwnScore, selectSection, selectSong, selectTakes } from '../store/selectors';
import { DraftClient } from '../work/draft-client';

/** A band of another song or of a style, with the style that it plays in. */
export interface Band {
  readonly parts: readonly Part[];
  readonly style: Style;
}

interface Guest {
  readonly score: Score;
  readonly takes: Record<string, Take>;
}

/** Bands that are heard before they are taken: drafted in the worker over the section's own chords, in place of the song. */
@Injectable({ providedIn: 'root' })
export class GuestBand {
  private readonly store = inject(Store);
  private readonly client = inject(DraftClient);
  private readonly playback = inject(Playback);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly section = this.store.selectSignal(selectSection);
  /** True while a band is being drafted. */
  readonly working = signal(false);
  private asked = 0;

  /** Drafts a band over the chords that sound, and plays it in place of the song. */
  async hear(band: Band): Promise<void> {
    const asked = ++this.asked;
    const guest = await this.guestOf(band, () => asked !== this.asked);
    if (!guest || asked !== this.asked) return;
    await this.play(guest);
  }

  /** Plays another score in place of the song. */
  async play(guest: Guest): Promise<void> {
    this.asked++;
    this.playback.stop();
    this.playback.guest.set(guest);
    await this.playback.play();
  }

  /** The song again, in silence. */
  silence(): void {
    this.asked++;
    if (!this.playback.guest()) return;
    this.playback.stop();
    this.playback.guest.set(null);
  }

  private async guestOf({ parts, style }: Band, stale: () => boolean): Promise<Guest | null> {
    const [score, section] = [this.score(), this.section()];
    if (!score || !section) return null;
    const harmony = harmonyTake(this.takes(), soundingId(section, HARMONY, this.heard()));
    const own = groundOf(score, section);
    const metre = METRES.find((candidate) => metreName(candidate) === style.metres[0]);
    // Chords fill other bars in another metre, so a band is heard in the section's own.
    const ground = {
      ...own,
      style: style.id,
      swing: style.swing,
      tempo: Math.min(style.tempo.high, Math.max(style.tempo.low, own.tempo)),
      metre: harmony ? own.metre : (metre ?? own.metre),
    };
    const takes: Record<string, Take> = harmony ? { [harmony.id]: harmony } : {};
    const chosen: [LineId, TakeId][] = harmony ? [[HARMONY, harmony.id]] : [];
    this.working.set(true);
    for (const part of inDraftingOrder(parts)) {
      if (stale()) break;
      const listened = listenedTo(part, parts);
      const beside = listened
        ? Object.values(takes).filter((take): take is PartTake => take.of === 'part' && take.part === listened.id)
        : [];
      const asking = partAsking({ ground, bars: section.bars, kind: section.kind }, part, {
        ...(harmony ? { harmony: harmony.id } : {}),
        beside: beside.map((take) => take.id),
      });
      const request = {
        asking,
        seed: this.song().open?.seed ?? 1,
        chords: harmony?.chords ?? null,
        beside,
        ...(STYLES.includes(style) ? {} : { style }),
      };
      const run = this.client.run(
        { request, from: 0, count: 1, shown: [] },
        {
          take: ({ content, attempts }) => {
            if (content.of !== 'part') return;
            const place = { id: `take-${part.id}`, section: section.id, length: sectionTicks(score, section) };
            const take = draftedTake(
              place,
              { asking, seed: request.seed, attempts },
              { of: 'part', part: part.id, notes: content.notes },
            );
            takes[take.id] = take;
            chosen.push([part.id, take.id]);
          },
          progress: () => undefined,
          refused: () => undefined,
          usedUp: () => undefined,
        },
      );
      await run.done;
    }
    this.working.set(false);
    return {
      score: {
        ...withStyle(score, style),
        ground,
        parts,
        sections: [withChoices({ ...section, ground: {} }, chosen)],
        order: [{ id: 'heard', section: section.id }],
        remarks: {},
      },
      takes,
    };
  }
}
