import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { choiceOf, stepped, type BoundSetting } from '@fendro/core/patterns/settings/setting';
import type { Pattern } from '@fendro/core/song/schema';
import { ChoiceField } from '../../ui/fields/choice-field';
import { Sentence, type SentenceWord } from '../../ui/sentence';

/** A setting that was changed: what the pattern becomes, and whether by a word that many steps go through. */
export interface SettingChange {
  readonly id: string;
  readonly label: string;
  readonly pattern: Pattern;
}

/** What a pattern says of itself as a sentence, whose words step; a word that is pressed opens exact choices. */
@Component({
  selector: 'fd-pattern-sentence',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, Sentence],
  template: `
    <fd-sentence
      [opening]="opening()"
      [words]="words()"
      (stepped)="step($event)"
      (returned)="put($event)"
      (opened)="exact.set(!exact())"
    />
    @if (exact()) {
      <div class="row exact">
        @for (setting of settings(); track setting.id) {
          <label>
            <span aria-hidden="true">{{ setting.label }}</span>
            <fd-choice-field
              class="small"
              [label]="setting.label"
              [choices]="setting.choices"
              [value]="nearest(setting)"
              (chosen)="change(setting, $event)"
            />
          </label>
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
      font-size: 0.875rem;
    }
    .exact {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 12px;
      padding-block: 4px;
    }
    label {
      display: flex;
      flex-direction: column;
      font-size: 0.75rem;
      color: var(--quiet);
    }
  `,
})
export class PatternSentence {
  readonly opening = input.required<string>();
  readonly settings = input.required<readonly BoundSetting[]>();
  /** The same settings as the pattern came with. */
  readonly usual = input.required<readonly BoundSetting[]>();
  readonly changed = output<SettingChange>();
  protected readonly exact = signal(false);

  private usualOf(id: string): BoundSetting | undefined {
    return this.usual().find((setting) => setting.id === id);
  }

  protected readonly words = computed((): readonly SentenceWord[] =>
    this.settings().map((setting) => ({
      id: setting.id,
      label: setting.label,
      text: choiceOf(setting)?.text ?? '',
      usual: this.usualOf(setting.id)?.value === setting.value,
    })),
  );

  protected nearest(setting: BoundSetting): string | number {
    return choiceOf(setting)?.value ?? setting.value;
  }

  protected step({ id, by }: { readonly id: string; readonly by: 1 | -1 }): void {
    const setting = this.settings().find((own) => own.id === id);
    const next = setting && stepped(setting, by);
    if (next) this.change(setting, next.value);
  }

  /** Back to what the pattern came with. */
  protected put(id: string): void {
    const setting = this.settings().find((own) => own.id === id);
    const usual = this.usualOf(id);
    if (setting && usual) this.change(setting, usual.value);
  }

  protected change(setting: BoundSetting, value: string | number): void {
    if (value !== setting.value)
      this.changed.emit({ id: setting.id, label: setting.label, pattern: setting.set(value) });
  }
}
