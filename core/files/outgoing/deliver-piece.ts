import { barOf } from '../../song/ground';
import { own } from '../../song/look-up';
import { NOTHING_HEARD, sectionOf, type Music } from '../../song/resolve';
import { HARMONY, type Part, type PartTake, type Score, type Section, type SectionId } from '../../song/schema';
import { emptied, withChoice } from '../../song/section';
import { nameApart } from '../../song/version-words';
import { sectionCourse } from '../../sounding/course';
import { asSong, soundingOf, written, type Delivery, type DeliveryOptions, type Stretch } from './deliver';
import { fileNameOf } from './file-names';

/** One section with all its parts; what is heard in place of the chosen takes is the music's to say. */
export function deliverSection(music: Music, sectionId: SectionId, options: DeliveryOptions = {}): Delivery | null {
  const { score } = music;
  const section = sectionOf(score, sectionId);
  if (!section) return null;
  const name = nameApart(music, section);
  const sounding = soundingOf({
    ...asSong(music, options),
    course: sectionCourse(score, section),
    title: `${score.title} – ${name}`,
  });
  return written(sounding, fileNameOf([score.title, name], '.mid'));
}

/** A section in which a take lies by itself, as long as the take is. */
function around(score: Score, take: PartTake): Section | null {
  const home = sectionOf(score, take.section);
  const like = home ?? score.sections[0];
  if (!like) return null;
  const alone = home ?? { ...emptied(like), id: take.section, ground: {} };
  const bars = Math.max(1, Math.ceil(take.length / barOf(score, alone)));
  return withChoice({ ...alone, bars, solos: [] }, take.part, take.id);
}

/** One take on its own over the chords that sound, for dragging out of its picture. */
export function deliverTake(
  { score, takes, heard }: Music,
  take: PartTake,
  options: DeliveryOptions = {},
): Delivery | null {
  const part = score.parts.find(({ id }) => id === take.part);
  const section = around(score, take);
  if (!part || !section) return null;
  const named = sectionOf(score, take.section);
  const pieces = [part.name, ...(named ? [named.name] : [])];
  const chords = own(own(heard, section.id), HARMONY);
  const sounding = soundingOf({
    ...options,
    music: {
      score: { ...score, energy: [], sections: [section], order: [] },
      takes: { ...takes, [take.id]: take },
      heard: chords === undefined ? NOTHING_HEARD : { [section.id]: { [HARMONY]: chords } },
    },
    course: sectionCourse(score, section),
    title: pieces.join(' - '),
    sounds: (line) => line === part.id,
    together: ({ id }) => id === part.id,
    markers: false,
  });
  return written(sounding, fileNameOf([score.title, ...pieces], '.mid'));
}

/** Some bars by themselves as they sound now, of one part or of all that is not muted, for dragging out of the sheet. */
export function deliverBars(music: Music, stretch: Stretch, part: Part | null): Delivery {
  const whole = asSong(music, { stretch });
  const sounding = soundingOf({
    ...whole,
    ...(part ? { sounds: (line) => line === part.id, together: ({ id }) => id === part.id } : {}),
    markers: false,
  });
  return written(sounding, fileNameOf([music.score.title, ...(part ? [part.name] : []), stretch.name], '.mid'));
}
