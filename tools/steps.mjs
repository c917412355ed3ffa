// Runs steps in parallel, one lane for each core and one background step with the CPU time that is left, and prints
// where the time went.
import { spawn } from 'node:child_process';
import { cpus } from 'node:os';
import { root } from './ready.mjs';

/**
 * @typedef {object} Step
 * @property {string} title
 * @property {string} command
 * @property {readonly string[]} args
 * @property {Record<string, string>} [env]
 * @property {number} [lanes]  how many it takes; one where nothing is said, none where it waits rather than works
 * @property {readonly string[]} [after]  titles of the steps that must have passed before
 * @property {boolean} [background]  may run at low priority while all lanes are taken
 * @property {boolean} [shown]  what it prints is shown as it comes; else only where it fails
 */

const LANES = 2;
/** With more room for what is new, less is swept: a tenth of the time of specs and of the compiler. */
const ROOM = '--max-semi-space-size=96';
const TIMED = 'TIMEFORMAT="%U %S"; time "$@"';
/** Browser tests wait for music and pages, which leaves a tenth of the CPU time to background steps. */
const LOW_PRIORITY = ['nice', '-n', '19'];

/** Seconds in which the machine's cores worked, and all of their seconds. */
function machineSeconds() {
  const times = cpus().map(({ times: own }) => own);
  const sum = (pick) => times.reduce((total, own) => total + pick(own), 0) / 1000;
  const idle = sum((own) => own.idle);
  return { busy: sum((own) => own.user + own.nice + own.sys + own.irq), idle };
}

/** Runs one step. Its processor seconds are those of its processes that ended in order: a browser's are not among them. */
function ran({ title, command, args, env, shown }, low) {
  const began = Date.now();
  const [program, ...words] = [...(low ? LOW_PRIORITY : []), 'bash', '-c', TIMED, title, command, ...args];
  return new Promise((resolve) => {
    const child = spawn(program, words, {
      cwd: root,
      env: { ...process.env, NODE_OPTIONS: `${process.env.NODE_OPTIONS ?? ''} ${ROOM}`.trim(), ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let printed = '';
    for (const [stream, out] of [
      [child.stdout, process.stdout],
      [child.stderr, process.stderr],
    ])
      stream.on('data', (data) => {
        printed += data;
        if (shown) out.write(data);
      });
    child.on('close', (status) => {
      const wall = (Date.now() - began) / 1000;
      const [user = 0, system = 0] = printed.trimEnd().split('\n').at(-1).split(' ').map(Number);
      const passed = status === 0;
      console.log(`${passed ? 'passed' : 'FAILED'}  ${title}, ${Math.round(wall)} s`);
      if (!passed && !shown) console.log(printed);
      resolve({ title, passed, wall, cpu: user + system });
    });
  });
}

/**
 * Runs steps in their order, as many in parallel as there are lanes, and one background step beside them.
 *
 * @param {readonly Step[]} steps
 * @returns {Promise<boolean>} whether all passed
 */
export async function allRan(steps) {
  const since = { at: Date.now(), ...machineSeconds() };
  const waiting = [...steps];
  const running = new Set();
  const results = [];
  let [free, inBackground] = [LANES, 0];
  const passed = (title) => results.some((result) => result.title === title && result.passed);
  const failed = (title) => results.some((result) => result.title === title && !result.passed);

  /** Starts a step on some lanes, or in the background. */
  const start = (step, lanes, low = false) => {
    waiting.splice(waiting.indexOf(step), 1);
    free -= lanes;
    inBackground += Number(low);
    const run = ran(step, low).then((result) => {
      results.push(result);
      free += lanes;
      inBackground -= Number(low);
      running.delete(run);
    });
    running.add(run);
  };

  while (waiting.length > 0 || running.size > 0) {
    // A step that waits for a failed one is never run.
    for (const step of waiting.filter(({ after = [] }) => after.some(failed))) waiting.splice(waiting.indexOf(step), 1);
    let room = true;
    for (const step of [...waiting]) {
      const { lanes = 1, after = [], background = false } = step;
      if (!after.every(passed)) continue;
      if (room && lanes <= free) start(step, lanes);
      else if (background && inBackground === 0) start(step, 0, true);
      // Free lanes are kept for a step that needs more of them: later steps run only in the background.
      else if (!background) room = false;
    }
    await Promise.race(running);
  }
  printTable(results, since);
  return results.every((result) => result.passed) && results.length === steps.length;
}

function printTable(results, since) {
  const row = (title, wall, cpu) => console.log(title.padEnd(36), wall.padStart(8), cpu.padStart(8));
  const whole = (seconds) => String(Math.round(seconds));
  console.log('\nWhere the time went');
  row('step', 'wall, s', 'CPU, s');
  for (const { title, wall, cpu } of [...results].sort((a, b) => b.wall - a.wall)) row(title, whole(wall), whole(cpu));
  const now = machineSeconds();
  const [busy, idle] = [now.busy - since.busy, now.idle - since.idle];
  row('in all', whole((Date.now() - since.at) / 1000), whole(busy));
  console.log(`The cores stood idle for ${Math.round((100 * idle) / Math.max(1, busy + idle))} % of the time.`);
}
