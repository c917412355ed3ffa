/**
 * Jest's environment for Node with a plain global object. Jest's own hands every look at a global (`Math`, `Map`,
 * `Int32Array` …) through a proxy, which makes computing several times slower than it is in a browser or in Node.
 */
import vm from 'node:vm';
import { TestEnvironment } from 'jest-environment-node';

export default class PlainNodeEnvironment extends TestEnvironment {
  constructor(config, context) {
    const { createContext } = vm;
    vm.createContext = () => createContext(vm.constants.DONT_CONTEXTIFY);
    try {
      super(config, context);
    } finally {
      vm.createContext = createContext;
    }
  }
}
