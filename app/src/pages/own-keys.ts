import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  signal,
} from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField, MatLabel } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { Command } from '../commands/command';
import { findCommands } from '../commands/command-search';
import { Commands } from '../commands/commands';
import { chordOf, sayChord } from '../commands/key-chord';

/** Keys of one's own: each command's can be changed, switched off and set back; they are kept on the shelf. */
@Component({
  selector: 'fd-own-keys',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatFormField, MatInput, MatLabel],
  templateUrl: './own-keys.html',
  styleUrl: './own-keys.scss',
})
export class OwnKeys {
  protected readonly commands = inject(Commands);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly query = signal('');
  /** The command whose new key is awaited. */
  protected readonly awaited = signal<string | null>(null);
  protected readonly problem = signal<string | null>(null);
  protected readonly rows = computed(() =>
    findCommands(this.commands.all, this.query()).map((command) => ({
      command,
      keys: this.commands.keysOf(command).map(sayChord),
      changed: this.commands.isChanged(command),
    })),
  );

  constructor() {
    afterRenderEffect(() => {
      if (this.awaited() !== null) this.host.nativeElement.querySelector<HTMLElement>('.awaited')?.focus();
    });
  }

  protected ask(command: Command): void {
    this.problem.set(null);
    this.awaited.set(command.id);
  }

  /** Tab goes on as everywhere, so that nobody is caught here. */
  protected take(event: KeyboardEvent, command: Command): void {
    if (event.key === 'Tab') return;
    event.preventDefault();
    event.stopPropagation();
    const chord = chordOf(event);
    if (chord === null) return;
    if (chord === 'Escape' && !command.keys.includes(chord)) {
      this.leave();
      return;
    }
    const problem = this.commands.problemWith(command, chord);
    this.problem.set(problem);
    if (problem !== null) return;
    this.commands.setKeys(command, [chord]);
    this.leave();
  }

  protected leave(): void {
    this.awaited.set(null);
    this.problem.set(null);
  }
}
