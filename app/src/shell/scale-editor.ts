import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { tonicsFor } from '@fendro/core/theory/key';
import { pitchClassOf, printedName } from '@fendro/core/theory/pitch';
import { makeOwnScale, scaleOf } from '@fendro/core/theory/scale';
import { HarmonyDesk } from '../desks/harmony-desk';
import { selectOwnScore } from '../store/selectors';
import { Shelf } from '../store/shelf';
import { ScoreActions } from '../store/song.actions';
import { readWhole } from '../ui/read-number';

/** How likely a degree is that nobody has weighed, in %. */
const USUAL_WEIGHT = 100;

/** How likely drafters take each degree of the scale, and scales of one's own. */
@Component({
  selector: 'fd-scale-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="editor" aria-label="The scale" data-opened-by="[data-opens=scale]">
      <div class="weights" role="group" aria-label="How likely each degree is">
        <span class="title">How likely drafts take each degree</span>
        @for (degree of degrees(); track degree.index) {
          <label
            >{{ degree.name }}
            <input
              class="field mono"
              type="number"
              min="0"
              max="100"
              step="10"
              [value]="degree.weight"
              [attr.aria-label]="'Weight of ' + degree.name + ' in %'"
              (change)="setWeight(degree.index, $any($event.target))"
          /></label>
        }
        <button class="button small" [disabled]="!weighted()" (click)="even()">All alike</button>
      </div>
      <form class="own" (submit)="make($event, name.value, steps.value)">
        <span class="title">A scale of your own</span>
        <input #name class="field" aria-label="Name of your scale" placeholder="name" maxlength="40" />
        <input #steps class="field" aria-label="Degrees of your scale" placeholder="1 b2 3 5 b7" maxlength="60" />
        <button class="button small" type="submit">Use it</button>
        @if (problem(); as text) {
          <span class="problem" role="alert">{{ text }}</span>
        }
        @for (own of shelf.contents().scales; track own) {
          <button class="button small" type="button" (click)="use(own)">{{ nameOf(own) }}</button>
        }
        <span class="gap"></span>
        <button class="button small" type="button" (click)="closed.emit()">Close</button>
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
    label input {
      width: 4rem;
      min-height: 26px;
    }
    .own .field {
      min-height: 26px;
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
  protected readonly problem = signal<string | null>(null);

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

  protected setWeight(index: number, input: HTMLInputElement): void {
    // An emptied field means the usual weight, which is 100 %.
    const emptied = input.value.trim() === '' && !input.validity.badInput;
    const value = emptied ? USUAL_WEIGHT : readWhole(input.value, 0, 100);
    if (value === null) {
      input.value = String(this.degrees()[index]?.weight ?? USUAL_WEIGHT);
      this.problem.set('A weight is a whole number from 0 to 100 %; it stays as it was.');
      return;
    }
    input.value = String(value);
    this.problem.set(null);
    const weights = this.degrees().map(({ weight }, at) => (at === index ? value : weight));
    this.store.dispatch(ScoreActions.groundSet({ change: { weights } }));
  }

  protected even(): void {
    this.store.dispatch(ScoreActions.groundSet({ change: { weights: this.degrees().map(() => USUAL_WEIGHT) } }));
  }

  protected make(event: Event, name: string, steps: string): void {
    event.preventDefault();
    const made = makeOwnScale(name, steps);
    this.problem.set(made.ok ? null : made.reason);
    if (!made.ok) return;
    this.shelf.saveScale(made.id);
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
