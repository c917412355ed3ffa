import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { capitalised } from '@fendro/core/song/limits';
import { MOVE_KINDS, type MoveKind } from '@fendro/core/song/moves';
import { Commands } from '../../commands/commands';
import { LearnedControls, sayPlace } from '../../commands/learned-controls';
import { Teaching, type ControlPlace, type Deed } from '../../desks/devices/teaching';
import { selectOwnScore } from '../../store/selectors';
import { FindField } from '../../ui/fields/find-field';
import type { Choice } from '../../ui/fields/choice-field';

/** What controls of devices have learned, and how they learn more. */
@Component({
  selector: 'fd-control-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FindField, MatButton],
  templateUrl: './control-list.html',
  styleUrl: './control-list.scss',
})
export class ControlList {
  protected readonly teaching = inject(Teaching);
  private readonly learned = inject(LearnedControls);
  private readonly commands = inject(Commands);
  private readonly router = inject(Router);
  private readonly score = inject(Store).selectSignal(selectOwnScore);
  protected readonly touched = computed(() => {
    const place = this.teaching.touched();
    return place && { ...place, words: sayPlace(place), does: this.teaching.deedOf(place) };
  });
  protected readonly rows = computed(() =>
    this.teaching.learned().map((own) => ({ own, control: sayPlace(own), does: this.learned.say(own.does) })),
  );
  /** Everything that a control can learn: sliders of the parts that there are, and all commands. */
  protected readonly choices = computed((): readonly Choice<string>[] => [
    ...(this.score()?.parts ?? []).flatMap(({ name }, place) =>
      MOVE_KINDS.map((slider) => ({
        value: `${slider} ${place}`,
        text: `${capitalised(slider)} of ${name}`,
        group: 'Mix',
      })),
    ),
    ...this.commands.all.map(({ id, words, group }) => ({ value: id, text: words, group })),
  ]);
  protected readonly chosen = computed(() => {
    const does = this.touched()?.does ?? null;
    if (!does) return '';
    return 'slider' in does ? `${does.slider} ${does.place}` : does.command;
  });

  protected teach(value: string): void {
    const place = this.teaching.touched();
    if (place) this.teaching.teach(place, deedOf(value));
  }

  /** Leads to the song, where the next thing that is pressed or moved is learned. */
  protected point(place: ControlPlace): void {
    this.learned.point(place);
    void this.router.navigateByUrl('/');
  }
}

function deedOf(value: string): Deed {
  const [slider, place] = value.split(' ');
  const kind = MOVE_KINDS.find((each): each is MoveKind => each === slider);
  return kind && place !== undefined ? { slider: kind, place: Number(place) } : { command: value };
}
