import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { choiceOf, stepped, type BoundSetting } from '@fendro/core/settings/setting';
import { SettingField } from '../../ui/fields/setting-field';
import { Sentence, type SentenceWord } from '../../ui/sentence';

/**
 * A setting that is changed. Keys come quicker than the page is drawn: what it becomes is worked out from what it is when
 * the change comes in, never from what is shown.
 */
export interface SettingChange {
  readonly id: string;
  readonly label: string;
  readonly to: (setting: BoundSetting<unknown>) => string | number;
}

/** What a pattern says of itself as a sentence, whose words step; a word that is pressed opens exact choices. */
@Component({
  selector: 'fd-pattern-sentence',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [SettingField, Sentence],
  template: `
    <fd-sentence
      [opening]="opening()"
      [words]="words()"
      [moved]="moved()"
      (stepped)="step($event)"
      (returned)="put($event)"
      (opened)="exact.set(!exact())"
    />
    @if (exact()) {
      <div class="row exact">
        @for (setting of settings(); track setting.id) {
          <fd-setting-field [setting]="setting" (chosen)="take(setting.id, $event)" />
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
  `,
})
export class PatternSentence {
  readonly opening = input.required<string>();
  readonly settings = input.required<readonly BoundSetting<unknown>[]>();
  /** The same settings as the pattern came with. */
  readonly usual = input.required<readonly BoundSetting<unknown>[]>();
  /** Words that have just been moved by something else. */
  readonly moved = input.required<ReadonlySet<string>>();
  readonly changed = output<SettingChange>();
  protected readonly exact = signal(false);

  private usualOf(id: string): BoundSetting<unknown> | undefined {
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

  protected step({ id, by }: { readonly id: string; readonly by: 1 | -1 }): void {
    this.change(id, (setting) => stepped(setting, by)?.value ?? setting.value);
  }

  /** Back to what the pattern came with. */
  protected put(id: string): void {
    const usual = this.usualOf(id);
    if (usual) this.change(id, () => usual.value);
  }

  protected change(id: string, to: SettingChange['to']): void {
    const setting = this.settings().find((own) => own.id === id);
    if (setting) this.changed.emit({ id, label: setting.label, to });
  }

  protected take(id: string, value: string | number): void {
    this.change(id, () => value);
  }
}
