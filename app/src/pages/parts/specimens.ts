import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatRadioButton, MatRadioGroup } from '@angular/material/radio';
import { ChordSymbol } from '../../ui/chord-symbol';
import { ChoiceField, choicesOf, type Choice } from '../../ui/fields/choice-field';
import { FileButton } from '../../ui/fields/file-button';
import { FindField } from '../../ui/fields/find-field';
import { NumberField } from '../../ui/fields/number-field';
import { RangeField } from '../../ui/fields/range-field';
import { SearchField } from '../../ui/fields/search-field';
import { SlideField } from '../../ui/fields/slide-field';
import { TextField } from '../../ui/fields/text-field';
import { FretboardPicture } from '../../ui/fretboard-picture';
import { ICONS } from '../../ui/icons.gen';
import { IdeaList } from '../../ui/idea-list';
import { KeyboardPicture } from '../../ui/keyboard-picture';
import { NotePicture } from '../../ui/note-picture';
import type { NoteShape } from '../../ui/note-shape';
import { Sentence } from '../../ui/sentence';
import { Tabs } from '../../ui/tabs';
import type { ThemeName } from '../../ui/theme';
import { BAR, chord, drums, ideas, melody, roles, spans, words } from './examples';

/** Each small part in its states, in the colours of one theme. */
@Component({
  selector: 'fd-specimens',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    ChordSymbol,
    FileButton,
    FindField,
    FretboardPicture,
    IdeaList,
    KeyboardPicture,
    MatButton,
    MatCheckbox,
    MatIcon,
    MatIconButton,
    MatProgressBar,
    MatRadioButton,
    MatRadioGroup,
    NotePicture,
    NumberField,
    RangeField,
    SearchField,
    Sentence,
    SlideField,
    Tabs,
    TextField,
  ],
  templateUrl: './specimens.html',
  styleUrl: './specimens.scss',
  host: { '[attr.data-theme]': 'theme()', role: 'region', '[attr.aria-label]': 'name()' },
})
export class Specimens {
  readonly theme = input.required<ThemeName>();
  protected readonly name = computed(() => (this.theme() === 'day' ? 'By day' : 'By night'));
  protected readonly icons = Object.keys(ICONS);
  protected readonly tabs = ['First', 'Second', 'Third'].map((name) => ({ id: name, name }));
  protected readonly tab = signal('Second');
  protected readonly grids = choicesOf(['beat', 'eighth', 'triplet']);
  protected readonly scales: readonly Choice<string>[] = ['Major', 'Minor', 'Dorian'].map((text) => ({
    value: text,
    text,
    group: 'Common',
  }));
  protected readonly tempo = { least: 20, most: 300, digits: 1 };
  protected readonly words = words;
  protected readonly ideas = computed(() => ideas(this.theme()));
  protected readonly idea = signal<string | null>(null);
  protected readonly level = signal(62);
  protected readonly register = signal({ low: 48, high: 72 });
  protected readonly chords = ['C', 'F♯m7♭5', 'B♭/D'].map(chord);
  protected readonly bar = BAR;
  protected readonly length = 4 * BAR;
  protected readonly melody = melody;
  protected readonly drums = drums;
  protected readonly spans = spans;
  protected readonly roles = roles;
  protected readonly shapes: readonly NoteShape[] = ['bar', 'outline', 'slim', 'hatched'];
  protected readonly marks = [2, 7];
  protected readonly shape = [null, 3, 2, 0, 1, 0];
  protected readonly voicing = [48, 55, 60, 64];
}
