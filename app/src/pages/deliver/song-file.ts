import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import { Guide } from '../../desks/guide';
import { SongFiles } from '../../desks/song-files';
import { selectScore } from '../../store/selectors';
import { download } from '../../ui/download';

/** The whole song with all its takes, to be opened in Fendro again. */
@Component({
  selector: 'fd-song-file',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatCheckbox, MatIcon],
  template: `
    <p class="lead">
      Everything that the song is: sections, parts, every take, versions, history and styles of its own. It opens in
      Fendro again, here or on another machine, by “Open a song file” on the Songs page.
    </p>
    @if (hasGuides()) {
      <p>
        <mat-checkbox [checked]="withSounds()" (change)="withSounds.set($event.checked)"
          >the song file with the sound of its guides</mat-checkbox
        >
      </p>
    }
    <p>
      <button matButton="filled" (click)="save()">
        <mat-icon svgIcon="download" />The song file, to open in Fendro again
      </button>
    </p>
    <p role="status">{{ said() }}</p>
  `,
  styleUrl: '../pages.scss',
})
export class SongFile {
  private readonly files = inject(SongFiles);
  private readonly guide = inject(Guide);
  private readonly score = inject(Store).selectSignal(selectScore);
  protected readonly hasGuides = computed(() => (this.score()?.guides?.length ?? 0) > 0);
  /** Whether the sounds of guides go along. */
  protected readonly withSounds = signal(false);
  protected readonly said = signal('');

  protected async save(): Promise<void> {
    const text = await this.files.write(this.withSounds());
    const score = this.score();
    if (text === null || !score) return;
    download(fileNameOf([score.title], '.fendro'), text, 'application/json');
    this.said.set('The song file was handed over.');
    this.guide.finish();
  }
}
