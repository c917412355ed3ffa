import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { isDrumRole } from '@fendro/core/song/roles';
import { GuestTrials } from '../../desks/shelf/guest-trials';
import { Sharing } from '../../desks/shelf/sharing';
import { ShelfDesk } from '../../desks/shelf/shelf-desk';
import { itemsOf, LABELS, tagsIn, type Thing } from '../../desks/shelf/things';
import { Notices } from '../../store/notices';
import { isNamedKind, Shelf } from '../../store/shelf';
import { TextField } from '../../ui/fields/text-field';
import { NotePicture } from '../../ui/note-picture';
import { shapeOf } from '../../ui/note-shape';

/** The thing that is heard: what it is called, where it lies, and what can be done with it. */
@Component({
  selector: 'fd-shelf-thing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatCheckbox, NotePicture, TextField],
  template: `
    @if (desk.problem(); as problem) {
      <p class="problem" role="alert">{{ problem }}</p>
    }
    <div class="row">
      @if (desk.canBeTaken(thing().kind)) {
        <button matButton="filled" class="small" [disabled]="desk.problem() !== null" (click)="taken.emit()">
          {{ thing().kind === 'starts' ? 'Begin a song with it' : 'Take it' }}
        </button>
      }
      <button matButton="outlined" class="small" (click)="shelf.toggleFavourite(thing().id)">
        {{ thing().kept ? 'Kept' : 'Keep' }}
      </button>
      <button matButton="outlined" class="small" (click)="sharing.save([thing()], thing().name)">As a file</button>
      <button matButton="outlined" class="small" (click)="remove()">Take off the shelf</button>
    </div>
    <div class="fields">
      @if (named()) {
        <label>
          <span>Name</span>
          <fd-text-field label="Name of this thing" [most]="80" [value]="thing().name" (changed)="rename($event)" />
        </label>
      } @else {
        <p>
          <b>{{ thing().name }}</b>
        </p>
      }
      @if (labelled()) {
        <label>
          <span>Tags</span>
          <fd-text-field
            label="Tags of this thing, with commas between them"
            mayBeEmpty
            [most]="300"
            [value]="thing().tags.join(', ')"
            (changed)="tag($event)"
          />
        </label>
        <label>
          <span>Folder</span>
          <fd-text-field
            label="Folder of this thing"
            mayBeEmpty
            [most]="limits.folder"
            [value]="thing().folder ?? ''"
            (changed)="file($event)"
          />
        </label>
      }
    </div>
    @if (phrase(); as phrase) {
      <fd-note-picture
        [notes]="phrase.notes"
        [to]="phrase.length"
        [bar]="phrase.bar"
        [colour]="0"
        [shape]="phrase.shape"
      />
    }
    <p class="quiet says">{{ thing().says }}</p>
    @if (thing().kind === 'bands') {
      <div class="row">
        <mat-checkbox [checked]="setUp().sounds" (change)="change({ sounds: $event.checked })"
          >its sounds and levels</mat-checkbox
        >
        <mat-checkbox [checked]="setUp().briefs" (change)="change({ briefs: $event.checked })">its briefs</mat-checkbox>
        <mat-checkbox [checked]="setUp().missing" (change)="change({ missing: $event.checked })"
          >parts that I lack</mat-checkbox
        >
      </div>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 8px;
    }
    p {
      margin: 0;
    }
    .fields {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr));
      gap: 6px 12px;
    }
    label {
      display: flex;
      align-items: center;
      gap: 6px;
    }
    fd-text-field {
      flex: 1;
      min-width: 0;
    }
    fd-note-picture {
      height: 40px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px;
    }
  `,
})
export class ShelfThing {
  protected readonly desk = inject(ShelfDesk);
  protected readonly shelf = inject(Shelf);
  protected readonly sharing = inject(Sharing);
  private readonly guests = inject(GuestTrials);
  private readonly notices = inject(Notices);
  readonly thing = input.required<Thing>();
  readonly taken = output();
  protected readonly limits = LABELS;
  protected readonly setUp = this.guests.setUp.asReadonly();
  protected readonly named = computed(() => isNamedKind(this.thing().kind));
  /** Keys of one's own are of this machine. */
  protected readonly labelled = computed(() => this.thing().kind !== 'keys');
  protected readonly phrase = computed(() => {
    const { kind, id } = this.thing();
    const phrase = kind === 'phrases' ? this.shelf.contents().phrases.find((own) => own.id === id) : undefined;
    return phrase && { ...phrase, shape: shapeOf(0, isDrumRole(phrase.role)) };
  });

  protected rename(name: string): void {
    const { kind, id } = this.thing();
    if (isNamedKind(kind)) this.shelf.rename(kind, id, name);
  }

  protected tag(text: string): void {
    const { kind, id } = this.thing();
    this.shelf.label(kind, id, { tags: [...tagsIn(text, LABELS)] });
  }

  protected file(folder: string): void {
    const { kind, id } = this.thing();
    this.shelf.label(kind, id, { folder: folder === '' ? null : folder });
  }

  protected change(change: Partial<ReturnType<typeof this.setUp>>): void {
    this.guests.setUp.update((before) => ({ ...before, ...change }));
  }

  protected remove(): void {
    const thing = this.thing();
    const things = itemsOf(this.shelf.contents(), thing).map(({ kind, item }) => ({
      kind,
      id: typeof item === 'string' ? item : item.id,
    }));
    this.desk.letGo();
    const gone = this.shelf.removeAll(things);
    this.notices.say(`“${thing.name}” is off the shelf.`, {
      label: 'Put it back',
      run: () => void this.shelf.bring(gone),
    });
  }
}
