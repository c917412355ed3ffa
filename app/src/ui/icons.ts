import { inject, provideEnvironmentInitializer, type EnvironmentProviders } from '@angular/core';
import { MatIconRegistry } from '@angular/material/icon';
import { DomSanitizer } from '@angular/platform-browser';
import { ICONS } from './icons.gen';

/** Tells the registry the outlines of all icons, which ship with the application: none is fetched. */
export const provideIcons = (): EnvironmentProviders =>
  provideEnvironmentInitializer(() => {
    const [registry, sanitizer] = [inject(MatIconRegistry), inject(DomSanitizer)];
    for (const [name, path] of Object.entries(ICONS))
      registry.addSvgIconLiteral(
        name,
        // Ours, from icons.gen.ts, and nothing else.
        sanitizer.bypassSecurityTrustHtml(`<svg viewBox="0 -960 960 960"><path d="${path}"/></svg>`),
      );
  });
