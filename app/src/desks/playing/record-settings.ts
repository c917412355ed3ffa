import { Injectable, signal } from '@angular/core';
import * as z from 'zod';
import { pageMemory } from '../../ui/page-memory';

/** How what is played becomes takes. */
const settingsSchema = z
  .object({
    /** Bars that are counted before it begins. */
    countIn: z.union([z.literal(0), z.literal(1), z.literal(2)]),
    /** Whether the metronome goes along. */
    clicks: z.boolean(),
    /** The grid that notes are written on, in ticks. */
    step: z.union([z.literal(480), z.literal(240), z.literal(160), z.literal(120), z.literal(80), z.literal(60)]),
    /** How far notes are drawn to it, in %. */
    strength: z.union([z.literal(0), z.literal(50), z.literal(80), z.literal(100)]),
    /** Whether each round is another take, or all of them lie over what is there. */
    rounds: z.enum(['another take', 'over it']),
    /** Whether notes follow the chords from then on, or stay as they sounded. */
    notes: z.enum(['follow the chords', 'stay as played']),
  })
  .readonly();
export type RecordSettings = z.infer<typeof settingsSchema>;

const USUAL: RecordSettings = {
  countIn: 1,
  clicks: true,
  step: 120,
  strength: 80,
  rounds: 'another take',
  notes: 'follow the chords',
};

export const COUNT_IN_NAMES: Readonly<Record<RecordSettings['countIn'], string>> = {
  0: 'no count-in',
  1: 'count in 1 bar',
  2: 'count in 2 bars',
};

export const GRID_NAMES: Readonly<Record<RecordSettings['step'], string>> = {
  480: 'quarters',
  240: 'eighths',
  160: 'eighth triplets',
  120: 'sixteenths',
  80: 'sixteenth triplets',
  60: 'thirty-seconds',
};

export const STRENGTH_NAMES: Readonly<Record<RecordSettings['strength'], string>> = {
  0: 'as played',
  50: 'drawn by 50 %',
  80: 'drawn by 80 %',
  100: 'on the grid',
};

const KEPT_UNDER = 'fendro recording';

/** The settings of recording, as the writer left them. */
@Injectable({ providedIn: 'root' })
export class RecordingSettings {
  private readonly kept = signal<RecordSettings>(remembered());
  readonly now = this.kept.asReadonly();

  change(change: Partial<RecordSettings>): void {
    this.kept.update((settings) => ({ ...settings, ...change }));
    pageMemory.set(KEPT_UNDER, JSON.stringify(this.kept()));
  }
}

function remembered(): RecordSettings {
  try {
    const read = settingsSchema.safeParse(JSON.parse(pageMemory.get(KEPT_UNDER) ?? 'null'));
    return read.success ? read.data : USUAL;
  } catch {
    return USUAL;
  }
}
