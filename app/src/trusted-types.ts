/*
 * Imported first in main.ts: workers, the worklet and the service worker are started by address, and under Trusted
 * Types
 * only a policy may bless addresses. This one lets the application's own through.
 */
interface PolicyFactory {
  createPolicy(name: string, rules: { createScriptURL(address: string): string }): unknown;
}

const factory = (globalThis as unknown as { readonly trustedTypes?: PolicyFactory }).trustedTypes;

factory?.createPolicy('default', {
  createScriptURL(address) {
    if (new URL(address, document.baseURI).origin !== location.origin)
      throw new TypeError(`a script from elsewhere was refused: ${address}`);
    return address;
  },
});

export {};
