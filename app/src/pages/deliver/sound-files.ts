import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { Store } from '@ngrx/store';
import { audible } from '@fendro/core/files/outgoing/deliver';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import { chosenMusic } from '@fendro/core/files/outgoing/hand-over';
import type { PartId } from '@fendro/core/song/schema';
import { WAV_BITS, type WavBits } from '@fendro/core/sounding/wav';
import { LoopedStretch } from '../../desks/looped-stretch';
import { SoundWriting } from '../../desks/sound-writing';
import type { AskedSound } from '../../sound/rendered/sound-files-work';
import { selectScore, selectTakes } from '../../store/selectors';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { TimesRound } from './times-round';

const RATES: readonly Choice<number>[] = [
  { value: 44_100, text: '44.1 kHz' },
  { value: 48_000, text: '48 kHz' },
];
const BITS: readonly Choice<WavBits>[] = WAV_BITS.map((value) => ({ value, text: `${value} bits` }));

/** The song and its parts as sound. */
@Component({
  selector: 'fd-sound-files',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, TimesRound, MatButton, MatCheckbox, MatIcon, MatProgressBar],
  templateUrl: './sound-files.html',
  styleUrls: ['../pages.scss', './sound-files.scss'],
})
export class SoundFiles {
  private readonly store = inject(Store);
  protected readonly writing = inject(SoundWriting);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly looped = inject(LoopedStretch);
  private readonly takes = this.store.selectSignal(selectTakes);
  protected readonly rates = RATES;
  protected readonly bitChoices = BITS;
  protected readonly rate = signal(48_000);
  protected readonly bits = signal<WavBits>(24);
  private readonly chosen = signal<'song' | 'stretch'>('song');
  /** Of what sound is written. */
  protected readonly whats = computed((): readonly Choice<'song' | 'stretch'>[] => {
    const stretch = this.looped.stretch();
    return [
      { value: 'song', text: 'The song' },
      ...(stretch ? [{ value: 'stretch', text: `What is looped: ${stretch.name}` } as const] : []),
    ];
  });
  /** In place of the whole song; null where that is written. */
  protected readonly stretch = computed(() => (this.chosen() === 'stretch' ? this.looped.stretch() : null));
  protected readonly whole = signal(true);
  protected readonly parts = computed(() => (this.score()?.parts ?? []).filter(audible));
  /** Parts that are files of their own. */
  protected readonly asked = signal<ReadonlySet<PartId>>(new Set());
  protected readonly quiet = computed(() =>
    (this.score()?.parts ?? [])
      .filter((part) => !audible(part))
      .map(({ name }) => name)
      .join(', '),
  );
  protected readonly hasGuides = computed(() => (this.score()?.guides?.length ?? 0) > 0);
  protected readonly all = computed(() => this.parts().every(({ id }) => this.asked().has(id)));
  protected readonly some = computed(() => this.parts().some(({ id }) => this.asked().has(id)));
  /** The files, the song's first, numbered as its MIDI files are. */
  protected readonly files = computed((): readonly AskedSound[] => {
    const score = this.score();
    if (!score) return [];
    const of = this.pieces();
    const parts = this.parts().map(({ id, name }, index) => ({
      name: fileNameOf([`${String(index + 1).padStart(2, '0')} ${name}`, ...of], '.wav'),
      part: id,
    }));
    return [
      ...(this.whole() ? [{ name: fileNameOf([score.title, ...of], '.wav'), part: null }] : []),
      ...parts.filter(({ part }) => this.asked().has(part)),
    ];
  });
  protected readonly percent = computed(() => Math.round(100 * (this.writing.progress()?.done ?? 0)));

  /** What is less than the song is called so after it. */
  private readonly pieces = computed(() => [this.stretch()?.name ?? []].flat());

  protected choose(what: 'song' | 'stretch'): void {
    this.chosen.set(what);
  }

  protected ask(part: PartId, wanted: boolean): void {
    this.asked.update((asked) => new Set([...asked].filter((id) => id !== part).concat(wanted ? [part] : [])));
  }

  protected askAll(wanted: boolean): void {
    this.asked.set(new Set(wanted ? this.parts().map(({ id }) => id) : []));
  }

  protected write(): void {
    const score = this.score();
    const [first] = this.files();
    if (!score || !first) return;
    const name = this.files().length === 1 ? first.name : fileNameOf([score.title, ...this.pieces(), 'Sound'], '.zip');
    void this.writing.write(name, {
      music: chosenMusic(score, this.takes()),
      stretch: this.stretch() ?? undefined,
      files: this.files(),
      rate: this.rate(),
      bits: this.bits(),
    });
  }
}
