// Whether findings say where things were declared.

import { startRecording } from '#development';

/**
 * Has the places of all parts and rules recorded that are declared from now on, so that findings of `lint` name file and line. Call it
 * before the module of the schema is loaded. (The command does.) In production builds, nothing is recorded.
 *
 * @example
 * recordPlaces();
 * const name = text('Name', length({ max: 4 }), length({ max: 5 }));
 * (await lint(name)).map(({ place }) => place?.line);
 */
export function recordPlaces(): void {
  startRecording();
}
