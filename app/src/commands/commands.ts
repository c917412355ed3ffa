import { computed, inject, Injectable } from '@angular/core';
import { Teaching } from '../desks/devices/teaching';
import { Shelf } from '../store/shelf';
import type { Command, Region } from './command';
import { isCharacter, sayChord } from './key-chord';
import { arrangementCommands } from './lists/arrangement';
import { closeUpCommands } from './lists/close-up';
import { chordCommands } from './lists/chords';
import { moveCommands } from './lists/moves';
import { motifCommands } from './lists/motifs';
import { patternCommands } from './lists/patterns';
import { leaningCommands } from './lists/leanings';
import { treatmentCommands } from './lists/treatments';
import { pageCommands } from './lists/pages';
import { playingCommands } from './lists/playing';
import { redraftingCommands } from './lists/redrafting';
import { sheetCommands } from './lists/sheet';
import { takeCommands } from './lists/takes';
import { transportCommands } from './lists/transport';
import { versionCommands } from './lists/versions';

/**
 * Where a key could mean two things. Inside a region its own keys come before those of the workspace; what holds
 * anywhere holds in every region too.
 */
export const meet = (a: Region, b: Region): boolean => a === b || a === 'anywhere' || b === 'anywhere';

/** Everything that a writer can do, by id; and the keys that each has, as it came or as the writer set them. */
@Injectable({ providedIn: 'root' })
export class Commands {
  private readonly shelf = inject(Shelf);
  private readonly teaching = inject(Teaching);
  readonly all: readonly Command[] = [
    ...transportCommands(),
    ...takeCommands(),
    ...redraftingCommands(),
    ...motifCommands(),
    ...patternCommands(),
    ...treatmentCommands(),
    ...leaningCommands(),
    ...moveCommands(),
    ...playingCommands(),
    ...sheetCommands(),
    ...closeUpCommands(),
    ...chordCommands(),
    ...arrangementCommands(),
    ...versionCommands(),
    ...pageCommands(),
  ];
  private readonly byId = new Map(this.all.map((command) => [command.id, command]));
  private readonly own = computed(() => new Map(this.shelf.contents().keys.map(({ id, keys }) => [id, keys])));

  /** @throws Error where there is no such command: only code asks for one by a fixed name */
  of(id: string): Command {
    const command = this.byId.get(id);
    if (!command) throw new Error(`no command ${id}`);
    return command;
  }

  /** The command of an id that was kept; null where this build has none of that name. */
  known(id: string): Command | null {
    return this.byId.get(id) ?? null;
  }

  /** The keys that a command has now. Reads signals. */
  keysOf(command: Command): readonly string[] {
    return this.own().get(command.id) ?? command.keys;
  }

  isChanged(command: Command): boolean {
    return this.own().has(command.id);
  }

  /** The command that a chord of keys means in the innermost of some regions that knows it and can do it now. */
  at(chord: string, regions: readonly Region[]): Command | null {
    for (const region of regions) {
      const found = this.all.find((command) => command.region === region && this.keysOf(command).includes(chord));
      if (found && (found.enabled?.() ?? true)) return found;
    }
    return null;
  }

  /**
   * Does it, if it can be done now. Where a control of a device waits to be shown what it should do, it learns this
   * instead; ways to other pages and drawers still lead there.
   *
   * @returns whether it was done or learned
   */
  run(command: Command): boolean {
    if (!/^(?:page|drawer|region)\./.test(command.id) && this.teaching.shown({ command: command.id })) return true;
    if (!(command.enabled?.() ?? true)) return false;
    command.run();
    return true;
  }

  /** What a command does now, with its keys: the text of a tooltip. Reads signals. */
  told(command: Command): string {
    const keys = this.keysOf(command).map(sayChord);
    const words = command.now?.() ?? command.words;
    return keys.length === 0 ? words : `${words} (${keys.join(', ')})`;
  }

  /** Why a key cannot be given to a command, in words; null where it can. */
  problemWith(command: Command, chord: string): string | null {
    const other = this.all.find(
      (candidate) =>
        candidate.id !== command.id && meet(candidate.region, command.region) && this.keysOf(candidate).includes(chord),
    );
    return other ? `${sayChord(chord)} is “${other.words}” already. Switch that off first, or take another key.` : null;
  }

  setKeys(command: Command, keys: readonly string[]): void {
    const same = keys.length === command.keys.length && keys.every((key, index) => key === command.keys[index]);
    this.shelf.saveKeys(command.id, same ? null : keys);
  }

  /** Takes single characters off every command, for who speaks to the computer or types with a tremor. */
  switchLettersOff(): void {
    for (const command of this.all) {
      const keys = this.keysOf(command);
      if (keys.some(isCharacter))
        this.setKeys(
          command,
          keys.filter((chord) => !isCharacter(chord)),
        );
    }
  }

  readonly lettersOff = computed(() => this.all.every((command) => !this.keysOf(command).some(isCharacter)));
  readonly someChanged = computed(() => this.all.some((command) => this.isChanged(command)));

  setAllBack(): void {
    for (const command of this.all) if (this.isChanged(command)) this.setKeys(command, command.keys);
  }
}
