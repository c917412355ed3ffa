/** How the browser is started for tests, pictures and measurements. */
export const BROWSER: { readonly executablePath: string; readonly args: string[] };
