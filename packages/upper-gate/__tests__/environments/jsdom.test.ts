/** @jest-environment jsdom */
import { testForms } from './forms.ts';

testForms();
