// Jest makes some seventy functions for each `expect(…)`, which takes a third of the time of properties that check a
// million times. The commonest checks are done here first; whatever does not pass goes to Jest's own for its words.
const { isDeepStrictEqual } = require('node:util');

const own = globalThis.expect;
const numbers = (a, b) => typeof a === 'number' && typeof b === 'number';

const PASSES = {
  toBe: (actual, expected) => Object.is(actual, expected),
  toBeGreaterThan: (actual, expected) => numbers(actual, expected) && actual > expected,
  toBeGreaterThanOrEqual: (actual, expected) => numbers(actual, expected) && actual >= expected,
  toBeLessThan: (actual, expected) => numbers(actual, expected) && actual < expected,
  toBeLessThanOrEqual: (actual, expected) => numbers(actual, expected) && actual <= expected,
  toBeNull: (actual) => actual === null,
  toBeUndefined: (actual) => actual === undefined,
  toHaveLength: (actual, length) => Array.isArray(actual) && actual.length === length,
  // Stricter than Jest's, which takes a missing property for one that is undefined.
  toEqual: isDeepStrictEqual,
};

class Expectation {
  constructor(actual) {
    this.actual = actual;
  }
}

for (const name of Object.keys(own(null))) {
  const passes = PASSES[name];
  if (typeof own(null)[name] !== 'function')
    Object.defineProperty(Expectation.prototype, name, {
      get() {
        return own(this.actual)[name];
      },
    });
  else
    Expectation.prototype[name] = function (...expected) {
      if (passes?.(this.actual, ...expected)) return undefined;
      return own(this.actual)[name](...expected);
    };
}

globalThis.expect = Object.assign((actual) => new Expectation(actual), own);
