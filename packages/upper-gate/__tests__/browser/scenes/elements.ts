// The plain pages, whose forms custom elements bind.

import { defineForms, FormElement } from 'upper-gate/elements';
import { by } from './plain.ts';

export * from './plain.ts';

defineForms();

by.bind = (form, gate, options) => {
  const element = new FormElement();
  form.replaceWith(element);
  element.append(form);
  element.bind(gate, options);
  return () => element.remove();
};
