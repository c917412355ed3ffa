import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import type { Command, Region } from './command';
import { Commands } from './commands';
import { Dialogs } from './dialogs';
import { chordOf, figureChordOf } from './key-chord';
import { Regions } from './regions';

/** Inputs in which no text is typed. */
const PRESSED_INPUTS = ['checkbox', 'radio', 'range', 'button', 'submit', 'file'];
/** What a slider and a group of radio buttons do with keys themselves. */
const SLIDING = ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Home', 'End', 'PageUp', 'PageDown'];

/** True where text is typed, so that only keys with Ctrl or Alt are commands. */
export const takesText = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    ['SELECT', 'TEXTAREA'].includes(target.tagName) ||
    (target instanceof HTMLInputElement && !PRESSED_INPUTS.includes(target.type)));

/** True where a control does something with the key itself. */
function ownsKey(target: EventTarget | null, chord: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target instanceof HTMLInputElement && ['range', 'radio'].includes(target.type) && SLIDING.includes(chord))
    return true;
  if (chord === 'Enter') return target.closest('button, a, summary') !== null;
  return (
    chord === 'Space' &&
    target.closest('button, a, summary, input, [role="menuitem"], [role="option"]') !== null &&
    target.matches(':focus-visible')
  );
}

/**
 * True while a menu or a dialog lies over the page and has the keys. One that is closing gives the focus back at once
 * and goes a moment later: a writer who goes on by keys does not wait for it.
 */
export const isCovered = (target: EventTarget | null): boolean =>
  document.querySelector('.cdk-overlay-backdrop') !== null &&
  (!(target instanceof HTMLElement) || target === document.body || target.closest('.cdk-overlay-container') !== null);

/** Turns keys into commands: of the region in focus first, then of the workspace, then of what holds anywhere. */
@Injectable({ providedIn: 'root' })
export class Keys {
  private readonly commands = inject(Commands);
  private readonly regions = inject(Regions);
  private readonly router = inject(Router);
  private readonly dialogs = inject(Dialogs);
  /** What lasts until its key is let go. */
  private held: { readonly key: string; readonly command: Command } | null = null;

  down(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.isComposing || this.dialogs.isOpening || isCovered(event.target)) return;
    const chord = chordOf(event);
    if (chord === null || ownsKey(event.target, chord)) return;
    const plain = !event.ctrlKey && !event.metaKey && !event.altKey;
    // In text, Ctrl Z and the like belong to the text.
    if (
      takesText(event.target) &&
      ((plain && !/F\d+$/.test(chord)) || ['Mod+z', 'Shift+Mod+z', 'Mod+c', 'Mod+v', 'Mod+x'].includes(chord))
    )
      return;
    const regions = this.regionsFor(event.target);
    const figure = figureChordOf(event);
    const command = this.commands.at(chord, regions) ?? (figure === null ? null : this.commands.at(figure, regions));
    if (!command) return;
    event.preventDefault();
    if (event.repeat && !command.repeats) return;
    if (command.release) this.held = { key: event.key, command };
    this.commands.run(command);
  }

  up(event: KeyboardEvent): void {
    if (this.held?.key === event.key) this.letGo();
  }

  /** Ends what lasts as long as a key is held, such as when another window takes the keys. */
  letGo(): void {
    const held = this.held;
    this.held = null;
    held?.command.release?.();
  }

  private regionsFor(target: EventTarget | null): readonly Region[] {
    const inWorkspace = this.router.url.split(/[?#]/)[0] === '/';
    return inWorkspace ? [...this.regions.around(target), 'workspace', 'anywhere'] : ['anywhere'];
  }
}
