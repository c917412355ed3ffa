import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import { Library } from '../desks/library';
import { Notices } from '../store/notices';
import { download } from '../ui/download';
import { inWords } from '../ui/in-words';

/** Stands where the song would be when it could not be opened: what is wrong, and every way on. */
@Component({
  selector: 'fd-failed-opening',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton],
  template: `
    <div class="failure" role="alert">
      <h1>The song could not be opened</h1>
      <p>{{ reason() }}</p>
      @if (song()) {
        <p>Nothing of it was changed. What is stored of it can be kept as a file.</p>
      }
    </div>
    <p class="ways">
      <button matButton="filled" (click)="again.emit()">Try again</button>
      @if (song(); as id) {
        <button matButton="outlined" (click)="saveRaw(id)">Save what is stored of it</button>
      }
      <button matButton="outlined" (click)="demo.emit()">Open the demo song</button>
    </p>
    <p class="quiet">All else goes on: your other songs, bringing in music and the help are above.</p>
  `,
  styles: `
    :host {
      display: block;
      margin: 64px auto;
      max-width: 44rem;
      padding: 0 24px;
    }
    h1 {
      font-family: var(--serif);
      font-size: 1.75rem;
    }
    .ways {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
  `,
})
export class FailedOpening {
  private readonly library = inject(Library);
  private readonly notices = inject(Notices);
  readonly reason = input.required<string>();
  /** The song that storage holds something of. */
  readonly song = input<string | undefined>();
  readonly again = output();
  readonly demo = output();

  protected async saveRaw(id: string): Promise<void> {
    try {
      download(fileNameOf(['Fendro', id, 'stored data'], '.json'), await this.library.rawFile(id), 'application/json');
    } catch (problem) {
      this.notices.say(`It could not be read: ${inWords(problem)}.`);
    }
  }
}
