import type { AbstractControl, ValidationErrors } from '@angular/forms';

/** A name needs something to read. */
export const named = ({ value }: AbstractControl<string>): ValidationErrors | null =>
  value.trim() === '' ? { named: true } : null;
