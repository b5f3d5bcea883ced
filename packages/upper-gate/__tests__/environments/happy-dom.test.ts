/** @jest-environment @happy-dom/jest-environment */
import { testForms } from './forms.ts';

testForms();
