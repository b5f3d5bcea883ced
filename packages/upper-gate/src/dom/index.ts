// Upper Gate for plain pages.

export { bindForm } from './bindForm.ts';
