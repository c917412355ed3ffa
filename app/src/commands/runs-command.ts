import { computed, Directive, effect, inject, input } from '@angular/core';
import { MatMenuItem } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import { Commands } from './commands';
import { ariaChord } from './key-chord';

/**
 * A control that runs a command: its tooltip tells what it does and by which keys, it is off where the command could do
 * nothing, and pressed where what it switches is on.
 */
@Directive({
  selector: '[fdRuns]',
  hostDirectives: [MatTooltip],
  host: {
    '(click)': 'run()',
    '[attr.aria-keyshortcuts]': 'shortcuts()',
    '[attr.aria-pressed]': 'pressed()',
    '[attr.aria-disabled]': 'off() || null',
  },
})
export class RunsCommand {
  private readonly commands = inject(Commands);
  private readonly tooltip = inject(MatTooltip);
  /** The id of the command. */
  readonly fdRuns = input.required<string>();
  private readonly command = computed(() => this.commands.of(this.fdRuns()));
  protected readonly off = computed(() => !(this.command().enabled?.() ?? true));
  /** Items of menus cannot be pressed: their words say what is on. */
  private readonly item = inject(MatMenuItem, { optional: true, self: true });
  protected readonly pressed = computed(() => (this.item ? null : (this.command().pressed?.() ?? null)));
  protected readonly shortcuts = computed(() => this.commands.keysOf(this.command()).map(ariaChord).join(' ') || null);

  private readonly told = computed(() => this.commands.told(this.command()));

  constructor() {
    // Only when the words change: whatever they are made of changes far more often.
    effect(() => {
      this.tooltip.message = this.told();
    });
    effect(() => {
      if (this.item) this.item.disabled = this.off();
    });
  }

  protected run(): void {
    this.commands.run(this.command());
  }
}
