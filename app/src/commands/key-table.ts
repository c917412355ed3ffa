import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Command } from './command';
import { Commands } from './commands';
import { CONTROL_KEYS } from './control-keys';
import { sayChord } from './key-chord';

interface Row {
  readonly id: string;
  readonly words: string;
  readonly keys: readonly string[];
}

/** All keys as they are now, under their headings. */
@Component({
  selector: 'fd-key-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (group of groups(); track group.name) {
      <section>
        <h3>{{ group.name }}</h3>
        <dl>
          @for (row of group.rows; track row.id) {
            <div>
              <dt>
                @for (key of row.keys; track key) {
                  <kbd>{{ key }}</kbd>
                }
              </dt>
              <dd>{{ row.words }}</dd>
            </div>
          }
        </dl>
      </section>
    }
  `,
  styles: `
    :host {
      display: block;
      columns: 21rem;
      column-gap: 32px;
    }
    section {
      break-inside: avoid;
      margin-bottom: 16px;
    }
    h3 {
      font-size: 0.8125rem;
      color: var(--quiet);
      margin-bottom: 4px;
    }
    dl {
      margin: 0;
    }
    dl div {
      display: flex;
      gap: 12px;
      padding: 3px 0;
    }
    dt {
      flex: none;
      width: 8.5rem;
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
    }
    dd {
      margin: 0;
    }
  `,
})
export class KeyTable {
  private readonly commands = inject(Commands);
  /** Keys of single kinds of controls are listed too. */
  readonly withControls = input(true);
  protected readonly groups = computed(() => {
    const groups = new Map<string, Row[]>();
    const add = (group: string, row: Row): void => {
      groups.set(group, [...(groups.get(group) ?? []), row]);
    };
    for (const command of this.commands.all) {
      const keys = this.commands.keysOf(command).map(sayChord);
      if (keys.length > 0) add(command.group, this.rowOf(command, keys));
    }
    if (this.withControls())
      for (const { group, keys } of CONTROL_KEYS)
        for (const { words, keys: chords } of keys)
          add(group, { id: `${group} ${words}`, words, keys: chords.map(sayChord) });
    return [...groups].map(([name, rows]) => ({ name, rows }));
  });

  private rowOf({ id, words }: Command, keys: readonly string[]): Row {
    return { id, words, keys };
  }
}
