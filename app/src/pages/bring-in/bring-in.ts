import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { Tabs, type Tab } from '../../ui/tabs';
import { ChordText } from './chord-text';
import { MidiFile } from './midi-file';
import { MidiFileDesk } from './midi-file-desk';
import { RecordingDesk } from './recording-desk';

type Kind = 'midi' | 'chords';

/** Music that is already there: a MIDI file, a recording, or chords as they are written. */
@Component({
  selector: 'fd-bring-in',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChordText, MidiFile, Tabs],
  // A file that was read stays while the other view is open.
  providers: [MidiFileDesk, RecordingDesk],
  template: `
    <div class="page">
      <h1>Bring in</h1>
      <fd-tabs label="What comes in" [tabs]="tabs" [current]="kind()" (opened)="kind.set($event)">
        @if (kind() === 'midi') {
          <fd-midi-file />
        } @else {
          <fd-chord-text />
        }
      </fd-tabs>
    </div>
  `,
  styleUrl: '../pages.scss',
})
export class BringIn {
  protected readonly tabs: readonly Tab<Kind>[] = [
    { id: 'midi', name: 'A file' },
    { id: 'chords', name: 'Chords as text' },
  ];
  protected readonly kind = signal<Kind>('midi');
}
