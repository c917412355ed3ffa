import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { FURTHEST_OFFSET, type Guide, type Section } from '@fendro/core/song/schema';
import { secondsPerTick } from '@fendro/core/sounding/tempo-map';
import type { Ticks } from '@fendro/core/theory/units';
import { GuideDesk } from '../../desks/guides/guide-desk';
import { GuideSounds } from '../../desks/guides/guide-sounds';
import { NumberField } from '../../ui/fields/number-field';
import { SlideField } from '../../ui/fields/slide-field';
import { TextField } from '../../ui/fields/text-field';
import { GuideWave, type WaveBar } from './guide-wave';

/** One guide: its picture over the bars, where it lies, how loud it is. */
@Component({
  selector: 'fd-guide-row',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [GuideWave, MatButton, MatIcon, MatIconButton, MatTooltip, NumberField, SlideField, TextField],
  template: `
    <div class="who">
      <fd-text-field
        class="plain"
        [label]="'Name of ' + guide().name"
        [value]="guide().name"
        (changed)="desk.change(guide(), { name: $event })"
      />
      <span class="quiet">{{ where() }}</span>
      @if (unstored()) {
        <span class="unstored">on this page only: download it</span>
      }
    </div>
    <fd-guide-wave [guide]="guide()" [bars]="lines()" />
    <fd-slide-field
      shown="Level"
      [label]="'Level of ' + guide().name"
      [value]="guide().level"
      (moved)="desk.change(guide(), { level: $event })"
    />
    <fd-number-field
      [label]="'How much later ' + guide().name + ' sounds'"
      unit="ms"
      told="From −2000 to 2000 ms. It is as it was."
      [bounds]="bounds"
      [value]="guide().offset"
      [of]="guide().id"
      (changed)="desk.change(guide(), { offset: $event })"
    />
    <button
      matButton="outlined"
      class="small"
      [attr.aria-pressed]="guide().muted"
      [attr.aria-label]="'Quiet: ' + guide().name"
      (click)="desk.change(guide(), { muted: !guide().muted })"
    >
      <mat-icon [svgIcon]="guide().muted ? 'volume_off' : 'volume_up'" />Quiet
    </button>
    <button
      matButton
      class="small"
      [attr.aria-label]="'Move ' + guide().name + ' here'"
      matTooltip="To the place in view, from the first selected bar on"
      (click)="desk.bringHere(guide())"
    >
      Here
    </button>
    <button
      matIconButton
      class="small"
      [attr.aria-label]="'Download ' + guide().name"
      matTooltip="As a WAV file"
      (click)="take()"
    >
      <mat-icon svgIcon="download" />
    </button>
    <button
      matIconButton
      class="small"
      [attr.aria-label]="'Take ' + guide().name + ' out'"
      matTooltip="Take it out; undo brings it back"
      (click)="desk.remove(guide())"
    >
      <mat-icon svgIcon="delete" />
    </button>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 9rem 1fr auto auto auto auto auto auto;
      align-items: center;
      gap: 8px;
      padding: 4px 0;
      border-top: 1px solid var(--line);
    }
    .who {
      display: flex;
      flex-direction: column;
      font-size: 0.8125rem;
      min-width: 0;
    }
    .unstored {
      color: var(--alert-text);
    }
  `,
})
export class GuideRow {
  protected readonly desk = inject(GuideDesk);
  private readonly sounds = inject(GuideSounds);
  readonly guide = input.required<Guide>();
  /** The section over which it begins; null where its place is gone. */
  readonly section = input.required<Section | null>();
  readonly tempo = input.required<number | null>();
  /** Ticks of a bar there. */
  readonly bar = input.required<Ticks>();
  protected readonly bounds = { least: -FURTHEST_OFFSET, most: FURTHEST_OFFSET };
  protected readonly where = computed(() => {
    const section = this.section();
    return section ? `${section.name}, bar ${1 + Math.floor(this.guide().at / this.bar())}` : 'its place is gone';
  });
  /** True where the browser could not store its sound. */
  protected readonly unstored = computed(() => this.sounds.unstored().has(this.guide().sound));
  /** The bar lines that lie in it, at the tempo of its section. */
  protected readonly lines = computed((): readonly WaveBar[] => {
    const [{ at, offset, seconds }, section, tempo] = [this.guide(), this.section(), this.tempo()];
    if (!section || tempo === null) return [];
    const each = secondsPerTick(tempo);
    const lines: WaveBar[] = [];
    for (let bar = Math.ceil(at / this.bar()); bar < section.bars; bar++) {
      const second = (bar * this.bar() - at) * each - offset / 1000;
      if (second >= 0 && second < seconds) lines.push({ at: second, bar: bar + 1 });
    }
    return lines;
  });

  protected async take(): Promise<void> {
    const wave = await this.sounds.of(this.guide().sound);
    if (wave) this.sounds.download(wave, this.guide().name);
  }
}
