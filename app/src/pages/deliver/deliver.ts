import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { layOut, songTicks } from '@fendro/core/song/resolve';
import { songCourse, tempoOf } from '@fendro/core/sounding/course';
import { keySignature } from '@fendro/core/theory/key';
import { metreText } from '@fendro/core/theory/metre';
import { printedName } from '@fendro/core/theory/pitch';
import { scaleOf } from '@fendro/core/theory/scale';
import { selectHeardChoices, selectScore } from '../../store/selectors';
import { Tabs, type Tab } from '../../ui/tabs';
import { ChartOnPaper } from './chart-on-paper';
import { LeadSheetFile } from './lead-sheet-file';
import { MidiFiles } from './midi-files';
import { SongFile } from './song-file';
import { SoundFiles } from './sound-files';

type Kind = 'midi' | 'sound' | 'lead' | 'chart' | 'song';

/** A song on its way out: as what it goes, and then what of it, and how. */
@Component({
  selector: 'fd-deliver',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, ChartOnPaper, LeadSheetFile, MidiFiles, SongFile, SoundFiles, Tabs],
  template: `
    <div class="page">
      <h1>Deliver</h1>
      <p class="lead">{{ summary() }}</p>
      @if (undecided() > 0) {
        <p class="problem">
          {{ undecided() }} heard {{ undecided() === 1 ? 'take is' : 'takes are' }} not chosen yet: what goes out are
          the chosen takes. <a routerLink="/">Back to choose</a>
        </p>
      }
      <fd-tabs label="As what" [tabs]="tabs" [current]="kind()" (opened)="kind.set($event)">
        @switch (kind()) {
          @case ('midi') {
            <fd-midi-files />
          }
          @case ('sound') {
            <fd-sound-files />
          }
          @case ('lead') {
            <fd-lead-sheet-file />
          }
          @case ('chart') {
            <fd-chart-on-paper />
          }
          @case ('song') {
            <fd-song-file />
          }
        }
      </fd-tabs>
    </div>
  `,
  styleUrl: '../pages.scss',
})
export class Deliver {
  private readonly store = inject(Store);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly heard = this.store.selectSignal(selectHeardChoices);
  protected readonly undecided = computed(() => this.heard().length);
  protected readonly tabs: readonly Tab<Kind>[] = [
    { id: 'midi', name: 'MIDI files' },
    { id: 'sound', name: 'Sound' },
    { id: 'lead', name: 'Lead sheet' },
    { id: 'chart', name: 'Chord chart' },
    { id: 'song', name: 'Song file' },
  ];
  protected readonly kind = signal<Kind>('midi');

  protected readonly summary = computed(() => {
    const score = this.score();
    if (!score) return '';
    const { tonic, scale, tempo, metre } = score.ground;
    const seconds = Math.round(tempoOf(songCourse(score), score).secondsAt(songTicks(score)));
    const bars = layOut(score).reduce((total, { section }) => total + section.bars, 0);
    const own = score.sections.some(({ ground }) => Object.keys(ground).length > 0);
    const { accidentals } = keySignature({ tonic, scale });
    const signature =
      accidentals === 0
        ? 'no accidentals'
        : `${Math.abs(accidentals)} ${accidentals > 0 ? 'sharp' : 'flat'}${Math.abs(accidentals) === 1 ? '' : 's'}`;
    return (
      `${printedName(tonic)} ${scaleOf(scale).name} (signature: ${signature}), ${metreText(metre)}, ` +
      `${tempo} beats a minute, ${bars} bars, ` +
      `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}.` +
      (own ? ' Sections with a key, metre or tempo of their own carry it.' : '')
    );
  });
}
