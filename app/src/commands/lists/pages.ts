import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { Guide } from '../../desks/guide';
import { selectRedo, selectUndo } from '../../store/selectors';
import { SessionActions, sessionFeature, type Drawer } from '../../store/session';
import { Notices } from '../../store/notices';
import { Saving } from '../../store/saving';
import { SongActions } from '../../store/song.actions';
import { NoteNames } from '../../ui/note-names';
import { Theme } from '../../ui/theme';
import { grouped, type Command } from '../command';
import { Dialogs } from '../dialogs';
import { Regions } from '../regions';

const DRAWERS: Readonly<Record<Drawer, readonly [words: string, keys: readonly string[]]>> = {
  overview: ['Open or close the whole song at a glance', ['Shift+o']],
  'close-up': ['Open or close the close-up of the notes', ['z']],
  patterns: ['Open or close the patterns', ['Shift+n']],
  play: ['Open or close the play desk', ['Shift+m']],
  guide: ['Open or close the guide under the song', ['Shift+w']],
  plan: ['Open or close the plan of the song', []],
  styles: ['Open or close the styles', []],
  phrases: ['Open or close the phrases', []],
  shelf: ['Open or close the shelf', ['Shift+i']],
  logbook: ['Open or close the logbook', ['g']],
  mix: ['Open or close the mix', []],
};

/** What holds everywhere: undo, saving, the ways to other pages, to drawers and to what explains Fendro. */
export function pageCommands(): readonly Command[] {
  const [store, router, saving, notices] = [inject(Store), inject(Router), inject(Saving), inject(Notices)];
  const [theme, guide, dialogs, regions] = [inject(Theme), inject(Guide), inject(Dialogs), inject(Regions)];
  const names = inject(NoteNames);
  const [undo, redo] = [store.selectSignal(selectUndo), store.selectSignal(selectRedo)];
  const drawer = store.selectSignal(sessionFeature.selectDrawer);
  const go = (address: string) => () => router.navigateByUrl(address);
  const save = async (): Promise<void> => {
    await saving.now();
    notices.say('Everything is saved as you go.', { label: 'Get the song file', run: () => void go('/deliver')() });
  };
  return [
    ...grouped('Song', 'anywhere', [
      {
        id: 'song.undo',
        words: 'Undo',
        now: () => (undo() === null ? 'Undo' : `Undo: ${undo()}`),
        keys: ['Mod+z'],
        repeats: true,
        enabled: () => undo() !== null,
        run: () => {
          store.dispatch(SongActions.undone());
        },
      },
      {
        id: 'song.redo',
        words: 'Redo',
        now: () => (redo() === null ? 'Redo' : `Redo: ${redo()}`),
        keys: ['Shift+Mod+z'],
        repeats: true,
        enabled: () => redo() !== null,
        run: () => {
          store.dispatch(SongActions.redone());
        },
      },
      { id: 'song.save', words: 'Make sure that all is saved', keys: ['Mod+s'], run: save },
    ]),
    ...grouped('Pages', 'anywhere', [
      { id: 'page.deliver', words: 'Hand the song over as files', keys: ['Mod+e'], run: go('/deliver') },
      { id: 'page.song', words: 'Back to the song', keys: [], run: go('/') },
      { id: 'page.songs', words: 'Songs', keys: [], run: go('/songs') },
      { id: 'page.bring-in', words: 'Bring in a MIDI file or chords', keys: [], run: go('/bring-in') },
      { id: 'page.devices', words: 'Devices: keyboards, controls, clocks', keys: [], run: go('/devices') },
      { id: 'page.help', words: 'Help', keys: [], run: go('/help') },
      { id: 'page.keys', words: 'All keys', keys: ['?'], run: () => dialogs.openKeys() },
      { id: 'page.commands', words: 'Find a command', keys: ['Mod+k'], run: () => dialogs.openSearch() },
      {
        id: 'page.theme',
        words: 'Day or night theme',
        now: () => (theme.name() === 'day' ? 'Night theme' : 'Day theme'),
        keys: [],
        run: () => {
          theme.toggle();
        },
      },
      {
        id: 'page.note-names',
        words: 'Name notes as in German, or as in English',
        now: () => (names.german() ? 'Name notes as in English (B, B♭)' : 'Name notes as in German (H, B)'),
        keys: [],
        run: () => {
          names.setGerman(!names.german());
          notices.say(
            names.german() ? 'H is B now, and B is B♭, where chords are typed.' : 'B is B again, and H is none.',
          );
        },
      },
      {
        id: 'page.guide',
        words: 'Take up the first minute',
        keys: [],
        run: () => {
          guide.resume();
          return router.navigateByUrl('/');
        },
      },
    ]),
    ...grouped('Regions and drawers', 'workspace', [
      {
        id: 'region.next',
        words: 'Go to the next region',
        keys: ['F6'],
        region: 'anywhere',
        run: () => {
          regions.goRound(1);
        },
      },
      {
        id: 'region.before',
        words: 'Go to the region before',
        keys: ['Shift+F6'],
        region: 'anywhere',
        run: () => {
          regions.goRound(-1);
        },
      },
      ...(Object.keys(DRAWERS) as Drawer[]).map((id) => ({
        id: `drawer.${id}`,
        words: DRAWERS[id][0],
        keys: DRAWERS[id][1],
        pressed: () => drawer() === id,
        run: () => {
          store.dispatch(SessionActions.drawerToggled({ drawer: id }));
        },
      })),
    ]),
  ];
}
