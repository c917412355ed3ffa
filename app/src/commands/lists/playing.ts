import { inject } from '@angular/core';
import { PlayPort } from '../../desks/playing/play-port';
import { grouped, type Command } from '../command';

/** What is recorded and taken of playing by hand. The keys work while letters are played, too. */
export function playingCommands(): readonly Command[] {
  const { acts, like } = inject(PlayPort);
  const remembers = (): boolean => acts()?.remembers() ?? false;
  const likes = (): boolean => like()?.ready() ?? false;
  return grouped('Playing', 'workspace', [
    {
      id: 'play.record',
      words: 'Record what is played by hand, or end it',
      now: () => (acts()?.recording() ? 'End the recording' : 'Record what is played by hand'),
      keys: ['F8'],
      enabled: () => acts() !== null,
      pressed: () => acts()?.recording() ?? false,
      run: () => acts()?.record(),
    },
    {
      id: 'play.take',
      words: 'Take what was just played, though nothing was recorded',
      keys: ['F7'],
      enabled: remembers,
      run: () => acts()?.take(),
    },
    {
      id: 'play.take-chords',
      words: 'Take the chords of what was just played',
      keys: [],
      enabled: remembers,
      run: () => acts()?.takeChords(),
    },
    {
      id: 'play.like-rhythm',
      words: 'Draft takes in the rhythm that was just played',
      keys: [],
      enabled: likes,
      run: () => like()?.draft('rhythm'),
    },
    {
      id: 'play.like-pitches',
      words: 'Draft takes with the pitches that were just played',
      keys: [],
      enabled: likes,
      run: () => like()?.draft('pitches'),
    },
  ]);
}
