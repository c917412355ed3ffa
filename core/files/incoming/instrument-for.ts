import { INSTRUMENTS, instrumentOf, type Instrument } from '../../sounding/instruments';

/**
 * The nearest of Fendro's instruments for each of the 128 programs of General MIDI (level 1), a row for each of its
 * families of eight: nearest in how they are struck, bowed or blown and how bright they are, then in their family.
 */
const NEAREST: readonly string[] = [
  // Pianos
  'grand-piano grand-piano electric-grand grand-piano electric-piano electric-piano electric-grand electric-piano',
  // Chromatic percussion
  'music-box music-box music-box vibraphone marimba marimba vibraphone steel-guitar',
  // Organs
  'drawbar-organ drawbar-organ rock-organ drawbar-organ drawbar-organ drawbar-organ drawbar-organ drawbar-organ',
  // Guitars
  'nylon-guitar steel-guitar clean-guitar clean-guitar muted-guitar driven-guitar driven-guitar clean-guitar',
  // Basses
  'acoustic-bass fingered-bass picked-bass fingered-bass picked-bass picked-bass round-synth-bass hard-synth-bass',
  // Strings
  'violin violin cello cello string-ensemble pizzicato nylon-guitar marimba',
  // Ensembles
  'string-ensemble string-ensemble synth-strings synth-strings choir voices voices brass-section',
  // Brass
  'trumpet brass-section brass-section trumpet brass-section brass-section synth-brass synth-brass',
  // Reeds
  'alto-saxophone alto-saxophone alto-saxophone alto-saxophone clarinet clarinet clarinet clarinet',
  // Pipes
  'flute flute flute flute flute flute flute flute',
  // Leads
  'square-lead saw-lead square-lead saw-lead saw-lead voices saw-lead hard-synth-bass',
  // Pads
  'warm-pad warm-pad poly-synth choir synth-strings warm-pad warm-pad synth-strings',
  // Effects
  'poly-synth synth-strings poly-synth warm-pad poly-synth warm-pad warm-pad poly-synth',
  // Plucked and blown by the peoples of the world
  'steel-guitar steel-guitar steel-guitar nylon-guitar marimba clarinet violin clarinet',
  // Percussion with a pitch
  'music-box music-box vibraphone marimba marimba marimba hard-synth-bass string-ensemble',
  // Noises
  'clean-guitar flute warm-pad flute music-box poly-synth warm-pad hard-synth-bass',
].flatMap((row) => row.split(' '));

/** The nearest kit for a program on the channel of drums: brushes, machines, and the standard kit for all others. */
function kitFor(program: number): string {
  if (program === 24 || program === 25) return 'electronic-kit';
  return program === 32 || (program >= 40 && program <= 47) ? 'brush-kit' : 'standard-kit';
}

/** Fendro's own instrument of a General MIDI program, or its nearest. */
export function instrumentFor(program: number, drums: boolean): Instrument {
  const exact = INSTRUMENTS.find(
    (instrument) => (instrument.family === 'drums') === drums && instrument.program === program,
  );
  return exact ?? instrumentOf(drums ? kitFor(program) : (NEAREST[program] ?? 'grand-piano'));
}
