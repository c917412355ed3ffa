import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { ReactiveFormsModule, FormControl, FormGroup } from '@angular/forms';
import { MatInput } from '@angular/material/input';
import { MatError, MatFormField } from '@angular/material/form-field';
import { NumberField } from '../ui/fields/number-field';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { tonicsFor } from '@fendro/core/theory/key';
import { pitchClassOf, printedName } from '@fendro/core/theory/pitch';
import { makeOwnScale, scaleOf } from '@fendro/core/theory/scale';
import { HarmonyDesk } from '../desks/harmony-desk';
import { selectOwnScore } from '../store/selectors';
import { Shelf } from '../store/shelf';
import { ScoreActions } from '../store/song.actions';

/** How likely a degree is that nobody has weighed, in %. */
const USUAL_WEIGHT = 100;

/** How likely drafters take each degree of the scale, and scales of one's own. */
@Component({
  selector: 'fd-scale-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, NumberField, MatFormField, MatError, MatInput, ReactiveFormsModule],
  template: `
    <section class="editor" aria-label="The scale" data-opened-by="[data-opens=scale]">
      <div class="weights" role="group" aria-label="How likely each degree is">
        <span class="title">How likely drafts take each degree</span>
        @for (degree of degrees(); track degree.index) {
          <label
            >{{ degree.name }}
            <fd-number-field
              class="small"
              blank="100"
              [stepSize]="10"
              [label]="'Weight of ' + degree.name + ' in %'"
              [bounds]="bounds"
              told="A weight is a whole number from 0 to 100 %; it stays as it was."
              [value]="degree.weight"
              (changed)="setWeight(degree.index, $event)"
              (cleared)="setWeight(degree.index, usual)"
          /></label>
        }
        <button matButton="outlined" class="small" [disabled]="!weighted()" (click)="even()">All alike</button>
      </div>
      <form class="own" [formGroup]="form" (submit)="make($event)">
        <span class="title">A scale of your own</span>
        <mat-form-field class="small">
          <input matInput formControlName="name" aria-label="Name of your scale" placeholder="name" maxlength="40" />
        </mat-form-field>
        <mat-form-field class="small told-below">
          <input
            matInput
            formControlName="steps"
            aria-label="Degrees of your scale"
            placeholder="1 b2 3 5 b7"
            maxlength="60"
          />
          <mat-error role="alert">{{ form.controls.steps.errors?.['told'] }}</mat-error>
        </mat-form-field>
        <button matButton="outlined" class="small" type="submit">Use it</button>
        @for (own of shelf.contents().scales; track own) {
          <button matButton="outlined" class="small" type="button" (click)="use(own)">{{ nameOf(own) }}</button>
        }
        <span class="gap"></span>
        <button matButton="outlined" class="small" type="button" (click)="closed.emit()">Close</button>
      </form>
    </section>
  `,
  styles: `
    .editor {
      display: flex;
      flex-direction: column;
      gap: 6px;
      padding: 8px 14px;
      background: var(--surface);
      border-bottom: 1px solid var(--line);
    }
    .weights,
    .own {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px 12px;
    }
    .title {
      min-width: 15rem;
      color: var(--quiet);
    }
    label {
      display: inline-flex;
      align-items: center;
      gap: 4px;
    }
    .gap {
      flex: 1;
    }
  `,
})
export class ScaleEditor {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  protected readonly shelf = inject(Shelf);
  private readonly score = this.store.selectSignal(selectOwnScore);
  readonly closed = output();
  protected readonly form = new FormGroup({
    name: new FormControl('', { nonNullable: true }),
    steps: new FormControl('', { nonNullable: true }),
  });
  protected readonly bounds = { least: 0, most: 100 };
  protected readonly usual = USUAL_WEIGHT;

  protected readonly degrees = computed(() => {
    const ground = this.score()?.ground;
    if (!ground) return [];
    const scale = scaleOf(ground.scale);
    return scale.fifths.map((interval, index) => ({
      index,
      name: `${scale.degrees[index]?.replaceAll('b', '♭').replaceAll('#', '♯')} ${printedName(ground.tonic + interval)}`,
      weight: ground.weights?.[index] ?? USUAL_WEIGHT,
    }));
  });
  protected readonly weighted = computed(() => this.degrees().some(({ weight }) => weight !== USUAL_WEIGHT));

  protected setWeight(index: number, value: number): void {
    const weights = this.degrees().map(({ weight }, at) => (at === index ? value : weight));
    this.store.dispatch(ScoreActions.groundSet({ change: { weights } }));
  }

  protected even(): void {
    this.store.dispatch(ScoreActions.groundSet({ change: { weights: this.degrees().map(() => USUAL_WEIGHT) } }));
  }

  protected make(event: Event): void {
    event.preventDefault();
    const { name, steps } = this.form.getRawValue();
    const made = makeOwnScale(name, steps);
    this.form.controls.steps.setErrors(made.ok ? null : { told: made.reason });
    this.form.controls.steps.markAsTouched();
    if (!made.ok) return;
    this.shelf.put('scales', made.id);
    this.use(made.id);
  }

  protected use(scale: string): void {
    const ground = this.score()?.ground;
    const tonic = ground ? tonicsFor(scale)[pitchClassOf(ground.tonic)] : undefined;
    if (tonic !== undefined) this.desk.changeGround({ section: null, change: { scale, tonic } });
  }

  protected nameOf(id: string): string {
    return scaleOf(id).name;
  }
}
