// Part of the reference's build: each public function says what every parameter is and what it returns.

import { Application, ReflectionKind } from 'typedoc';

const NOTHING = new Set(['void', 'never', 'undefined']);

/** @param {Application} app the run of TypeDoc that loads this as a plugin */
export function load(app) {
  app.on(Application.EVENT_VALIDATE_PROJECT, (project) => {
    for (const signature of project.getReflectionsByKind(ReflectionKind.CallSignature)) {
      if (!signature.parent.kindOf(ReflectionKind.Function | ReflectionKind.Method)) continue;
      // What a class has from the platform, such as Error.captureStackTrace, is documented there.
      if (signature.inheritedFrom || signature.parent.flags.isExternal) continue;
      const name = signature.getFullName();
      for (const parameter of signature.parameters ?? [])
        if (!parameter.comment) app.logger.warn(`${name}: parameter "${parameter.name}" has no description. Add @param.`);
      const returned = signature.type?.toString() ?? 'void';
      const isObvious = NOTHING.has(returned) || signature.type.type === 'predicate';
      const says = signature.comment ?? signature.parent.comment;
      if (!isObvious && !says?.getTag('@returns')) app.logger.warn(`${name} does not say what it returns. Add @returns.`);
    }
  });
}
