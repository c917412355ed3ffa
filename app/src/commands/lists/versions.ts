import { inject } from '@angular/core';
import { VersionsDesk } from '../../desks/versions-desk';
import { grouped, type Command } from '../command';

const NUMBERS = ['one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine'] as const;

/** Versions of the section in view, by the figures on the keys. */
export function versionCommands(): readonly Command[] {
  const desk = inject(VersionsDesk);
  const several = (): boolean => desk.shown().length > 1;
  const switches = NUMBERS.flatMap((number, index) => {
    const there = (): boolean => desk.shown().length > index;
    const name = (): string => desk.shown()[index]?.name ?? '';
    return [
      {
        id: `version.${number}`,
        words: `Play version ${index + 1} of the section`,
        now: () => (there() ? `Play “${name()}” wherever this version is played` : 'There is no such version'),
        keys: [`${index + 1}`],
        enabled: there,
        run: () => {
          desk.switchTo(index);
        },
      },
      {
        id: `version.${number}-here`,
        words: `Play version ${index + 1} in this place only`,
        now: () => (there() ? `Play “${name()}” in this place only` : 'There is no such version'),
        keys: [`Shift+${index + 1}`],
        enabled: there,
        run: () => {
          desk.switchTo(index, true);
        },
      },
    ];
  });
  return grouped('Versions', 'workspace', [
    {
      id: 'version.copy',
      words: 'Make another version of the section, as it is heard now',
      keys: ['e'],
      enabled: () => !desk.full(),
      run: () => {
        desk.copy();
      },
    },
    {
      id: 'version.name',
      words: 'Name this version of the section',
      keys: [],
      enabled: several,
      run: () => {
        desk.naming.set(true);
      },
    },
    {
      id: 'version.remove',
      words: 'Take this version of the section out',
      keys: [],
      enabled: several,
      run: () => {
        desk.remove();
      },
    },
    ...switches,
  ]);
}
