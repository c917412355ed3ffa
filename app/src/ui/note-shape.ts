/** Shapes tell parts apart where colours do not. */
export type NoteShape = 'bar' | 'outline' | 'slim' | 'dot' | 'hatched';

const SHAPES: readonly NoteShape[] = ['bar', 'outline', 'slim', 'hatched'];

export const shapeOf = (colour: number, drums: boolean): NoteShape =>
  drums ? 'dot' : (SHAPES[colour % SHAPES.length] ?? 'bar');

/** A line drawn on a canvas, or written as an SVG path by D3. */
export type Outline = Pick<CanvasPath, 'moveTo' | 'lineTo' | 'arc' | 'arcTo' | 'rect' | 'closePath'>;

/** An outlined note is stroked; all others are filled. */
export const isStroked = (shape: NoteShape): boolean => shape === 'outline';

/** Width of the stroke of an outlined note, in px. */
export const STROKE = 1.4;

/**
 * Adds one note to an outline in the shape of its part.
 *
 * @param x         its left edge, in px
 * @param y         its middle, in px
 * @param velocity  1 to 127: louder dots are larger
 */
export function outlineNote(
  outline: Outline,
  shape: NoteShape,
  x: number,
  y: number,
  width: number,
  height: number,
  velocity: number,
): void {
  const top = y - height / 2;
  switch (shape) {
    case 'dot': {
      const radius = 1.2 + (velocity / 127) * 1.6;
      outline.moveTo(x + 2 * radius, y);
      outline.arc(x + radius, y, radius, 0, 2 * Math.PI);
      break;
    }
    case 'outline':
      outline.rect(x + 0.7, top + 0.5, Math.max(1, width - STROKE), Math.max(2, height - 1));
      break;
    case 'slim':
      outline.rect(x, y - 1, width, 2);
      outline.rect(x, top, 2, height);
      break;
    case 'hatched':
      outline.rect(x, top, width, 1.2);
      outline.rect(x, top + height - 1.2, width, 1.2);
      for (let at = 0; at < width; at += 4) outline.rect(x + at, top, 1.6, height);
      break;
    case 'bar':
      // Round corners cost most of a picture, and nobody sees them on such a small note.
      if (width < 4) outline.rect(x, top, width, height);
      else outlineRound(outline, x, top, width, height, Math.min(2, height / 2));
      break;
  }
}

/** A rectangle with round corners, clockwise. */
function outlineRound(outline: Outline, x: number, y: number, width: number, height: number, radius: number): void {
  const [right, bottom] = [x + width, y + height];
  outline.moveTo(x + radius, y);
  outline.arcTo(right, y, right, bottom, radius);
  outline.arcTo(right, bottom, x, bottom, radius);
  outline.arcTo(x, bottom, x, y, radius);
  outline.arcTo(x, y, right, y, radius);
  outline.closePath();
}
