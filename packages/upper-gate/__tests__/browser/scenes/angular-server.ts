import '@angular/compiler';
import type { ApplicationRef } from '@angular/core';
import { bootstrapApplication, provideClientHydration, type BootstrapContext } from '@angular/platform-browser';
import { provideServerRendering, renderApplication } from '@angular/platform-server';
import { config, Form } from './angular.ts';
import type { Answer } from './forms.ts';

export { received } from './server.ts';
export async function draw(posted?: Answer): Promise<string> {
  const { providers } = config({ posted });
  const start = (context: BootstrapContext): Promise<ApplicationRef> =>
    bootstrapApplication(Form, { providers: [...providers, provideServerRendering(), provideClientHydration()] }, context);
  const html = await renderApplication(start, { document: '<html><head></head><body><scene-form></scene-form></body></html>', url: '/' });
  return /<body[^>]*>(.*)<\/body>/s.exec(html)![1]!;
}
