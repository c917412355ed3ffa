import { inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { EXPRESSION_NAMES } from '@fendro/core/shaping/curves';
import { ChordDesk } from '../../desks/chord-desk';
import { ClipDesk } from '../../desks/clip-desk';
import { CloseUpDesk } from '../../desks/close-up-desk';
import { CloseUpView } from '../../desks/close-up-view';
import { ExpressionDesk } from '../../desks/expression-desk';
import { News } from '../../store/news';
import { sessionFeature } from '../../store/session';
import { grouped, type Command } from '../command';

const ZOOM = 1.5;

/** Going over notes, and shaping those that are picked, in the close-up. */
export function closeUpCommands(): readonly Command[] {
  const [desk, view, news] = [inject(CloseUpDesk), inject(CloseUpView), inject(News)];
  const [expression, clips, chords] = [inject(ExpressionDesk), inject(ClipDesk), inject(ChordDesk)];
  const drawer = inject(Store).selectSignal(sessionFeature.selectDrawer);
  const open = (): boolean => drawer() === 'close-up' && desk.open();
  const some = (): boolean => open() && desk.any();
  const notes = (): boolean => open() && desk.notes().length > 0;
  const middle = (): number => (view.stretch().from + view.stretch().to) / 2;
  const by = (
    id: string,
    words: string,
    keys: readonly string[],
    run: () => void,
    enabled: () => boolean = some,
  ): Omit<Command, 'group' | 'region'> => ({ id, words, keys, repeats: true, enabled, run });
  const once = (
    id: string,
    words: string,
    keys: readonly string[],
    run: () => void,
    enabled: () => boolean = some,
  ): Omit<Command, 'group' | 'region'> => ({ id, words, keys, enabled, run });
  return [
    ...grouped('Close-up: going about', 'close-up', [
      by(
        'shape.before',
        'Go to the note before',
        ['ArrowLeft'],
        () => {
          desk.goTo(-1, false);
        },
        notes,
      ),
      by(
        'shape.after',
        'Go to the note after',
        ['ArrowRight'],
        () => {
          desk.goTo(1, false);
        },
        notes,
      ),
      by(
        'shape.before-too',
        'Pick the note before as well',
        ['Shift+ArrowLeft'],
        () => {
          desk.goTo(-1, true);
        },
        notes,
      ),
      by(
        'shape.after-too',
        'Pick the note after as well',
        ['Shift+ArrowRight'],
        () => {
          desk.goTo(1, true);
        },
        notes,
      ),
      once(
        'shape.pick-all',
        'Pick all notes',
        ['Mod+a'],
        () => {
          desk.pickAll();
        },
        notes,
      ),
      once(
        'shape.pick-bar',
        'Pick the notes of this bar',
        ['Alt+b'],
        () => {
          desk.pickBar();
        },
        notes,
      ),
      once('shape.pick-pitch', 'Pick all notes of this pitch', ['Alt+p'], () => {
        desk.pickPitch();
      }),
      by(
        'shape.closer',
        'Go closer in time',
        ['Alt++'],
        () => {
          view.zoom(ZOOM, middle());
        },
        open,
      ),
      by(
        'shape.further',
        'Go further away in time',
        ['Alt+-'],
        () => {
          view.zoom(1 / ZOOM, middle());
        },
        open,
      ),
      once(
        'shape.snap',
        'Snap to the next grid',
        ['Alt+g'],
        () => {
          news.say(`Notes snap to ${view.nextSnap().text}`);
        },
        open,
      ),
      once(
        'shape.rows',
        'Show other rows',
        ['Alt+f'],
        () => {
          news.say(`Rows: ${view.nextRows()}`);
        },
        open,
      ),
    ]),
    ...grouped('Close-up: shaping', 'close-up', [
      once(
        'shape.add',
        'Add a note after this one',
        ['Enter'],
        () => {
          desk.addAfter();
        },
        open,
      ),
      once('shape.remove', 'Delete the picked notes', ['Delete', 'Backspace'], () => {
        desk.remove();
      }),
      by('shape.step-up', 'Move the picked notes a step of the scale up', ['ArrowUp'], () => {
        desk.degrees(1);
      }),
      by('shape.step-down', 'Move the picked notes a step of the scale down', ['ArrowDown'], () => {
        desk.degrees(-1);
      }),
      by('shape.semitone-up', 'Move the picked notes a semitone up', ['Shift+ArrowUp'], () => {
        desk.semitones(1);
      }),
      by('shape.semitone-down', 'Move the picked notes a semitone down', ['Shift+ArrowDown'], () => {
        desk.semitones(-1);
      }),
      by('shape.octave-up', 'Move the picked notes an octave up', ['Alt+ArrowUp'], () => {
        desk.semitones(12);
      }),
      by('shape.octave-down', 'Move the picked notes an octave down', ['Alt+ArrowDown'], () => {
        desk.semitones(-12);
      }),
      by('shape.earlier', 'Move the picked notes earlier', ['Alt+ArrowLeft'], () => {
        desk.earlier(-1);
      }),
      by('shape.later', 'Move the picked notes later', ['Alt+ArrowRight'], () => {
        desk.earlier(1);
      }),
      by('shape.longer', 'Make the picked notes longer', ['Shift+Alt+ArrowRight'], () => {
        desk.longer(1);
      }),
      by('shape.shorter', 'Make the picked notes shorter', ['Shift+Alt+ArrowLeft'], () => {
        desk.longer(-1);
      }),
      by('shape.begin-later', 'Let the picked notes begin later', ['Alt+.'], () => {
        desk.beginLater(1);
      }),
      by('shape.begin-earlier', 'Let the picked notes begin earlier', ['Alt+,'], () => {
        desk.beginLater(-1);
      }),
      by('shape.louder', 'Make the picked notes louder', ['+'], () => {
        desk.louder(1);
      }),
      by('shape.softer', 'Make the picked notes softer', ['-'], () => {
        desk.louder(-1);
      }),
      once('shape.split', 'Split the picked notes in the middle', ['/'], () => {
        desk.split();
      }),
      once('shape.join', 'Join the picked notes of one pitch', ['Mod+j'], () => {
        desk.join();
      }),
      once('shape.copy', 'Copy the picked notes', ['Mod+c'], () => {
        clips.copy();
      }),
      once('shape.cut', 'Cut the picked notes', ['Mod+x'], () => {
        clips.cut();
      }),
      once(
        'shape.paste',
        'Paste notes into this bar, fitted to its chords',
        ['Mod+v'],
        () => {
          clips.paste(true);
        },
        () => open() && clips.canPaste(),
      ),
      once(
        'shape.paste-plain',
        'Paste notes into this bar as they are',
        ['Shift+Mod+v'],
        () => {
          clips.paste(false);
        },
        () => open() && clips.canPaste(),
      ),
      once('shape.double', 'Say the picked notes once more, right after', ['Mod+d'], () => {
        clips.double();
      }),
      once('shape.quantise', 'Draw the picked notes onto the grid', ['Alt+q'], () => {
        desk.quantise(100);
      }),
      once('shape.quantise-half', 'Draw the picked notes half way to the grid', [], () => {
        desk.quantise(50);
      }),
      once('shape.quantise-ends', 'Draw the ends of the picked notes onto the grid', [], () => {
        desk.quantiseEnds();
      }),
      once('shape.legato', 'Let each picked note last until the next', ['Alt+l'], () => {
        desk.legato();
      }),
      once('shape.reverse', 'Turn the picked notes round in time', ['Alt+r'], () => {
        desk.reverse();
      }),
      by('shape.likelier', 'Make the picked notes likelier', ['Alt+c'], () => {
        desk.likelier(10);
      }),
      by('shape.rarer', 'Make the picked notes rarer', ['Shift+Alt+c'], () => {
        desk.likelier(-10);
      }),
      by('shape.strike-more', 'Strike the picked notes once more', ['Alt+s'], () => {
        desk.strikeMore(1);
      }),
      by('shape.strike-less', 'Strike the picked notes once less', ['Shift+Alt+s'], () => {
        desk.strikeMore(-1);
      }),
    ]),
    ...grouped('Close-up: chords', 'close-up', [
      once(
        'shape.by-themselves',
        'Let chords strike in their rhythm again, in place of notes set one by one',
        [],
        () => {
          chords.byThemselves();
        },
        () => open() && chords.hasHand(),
      ),
    ]),
    ...grouped('Close-up: expression', 'close-up', [
      ...EXPRESSION_NAMES.map((name) =>
        once(`express.${name.replaceAll(' ', '-')}`, `Let the picked notes ${name}`, [], () => {
          expression.give(name);
        }),
      ),
      once('express.plain', 'Take bends, vibrato and swells off the picked notes', ['Alt+0'], () => {
        expression.plain();
      }),
    ]),
  ];
}
