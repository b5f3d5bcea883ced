// The look of the inspector: its own, in light and dark, whatever the page has. A constructed style sheet, which a strict policy allows.

const TEXT = `
:host { all: initial; display: block; color-scheme: light dark; --height: min(52vh, 460px);
  --ink: #1d2a30; --paper: #fbfcfc; --band: #eef3f4; --edge: #b9c6ca; --faint: #52646c; --accent: #14505c; --error: #a3221b; --warning: #7a5200;
  --notice: #1b6336; --found: #f0cbc8;
  font: 13px/1.45 system-ui, sans-serif; color: var(--ink); }
@media (prefers-color-scheme: dark) { :host { --ink: #e6eef0; --paper: #131b1f; --band: #1e292e; --edge: #435259; --faint: #a7b7bd; --accent: #84d2e0;
  --error: #ff9d94; --warning: #f0c36a; --notice: #8fd6a8; --found: #5d2c29; } }
* { box-sizing: border-box; }
.toggle { right: 12px; bottom: 12px; box-shadow: 0 1px 4px #0006; }
button, input, select { font: inherit; color: inherit; background: var(--paper); border: 1px solid var(--edge); border-radius: 4px; padding: 3px 9px; min-height: 26px; }
button { cursor: pointer; }
button:hover { border-color: var(--accent); }
:focus-visible { outline: 3px solid var(--accent); outline-offset: 1px; }
button[aria-pressed='true'] { background: var(--accent); color: var(--paper); }
/* (Room at the end of the page, so that everything can be scrolled out from under the panel.) */
:host([open]) { height: var(--height); }
.toggle, aside { position: fixed; z-index: 2147483647; }
aside { inset: auto 0 0 0; background: var(--paper); border-top: 2px solid var(--accent); box-shadow: 0 -2px 12px #0004; display: grid;
  grid-template: auto minmax(0, 1fr) / minmax(0, 5fr) minmax(0, 5fr) minmax(0, 6fr); height: var(--height); }
.toggle[hidden], aside[hidden], [hidden] { display: none; }
header { grid-column: 1 / -1; display: flex; flex-wrap: wrap; gap: 6px; align-items: center; padding: 6px 10px; background: var(--band); border-bottom: 1px solid var(--edge); }
h1 { font-size: 13px; margin: 0 6px 0 0; } h2 { font-size: 14px; margin: 0; } h3 { font-size: 12px; margin: 10px 0 2px; color: var(--faint); }
header label { display: flex; gap: 5px; align-items: center; }
header output { color: var(--faint); }
.spacer { flex: 1; }
.pane { overflow: auto; padding: 8px 10px; border-left: 1px solid var(--edge); }
.pane:first-of-type { border-left: 0; padding: 0; }
textarea { width: 100%; font: 12px ui-monospace, monospace; color: inherit; background: var(--band); border: 1px solid var(--edge); }
ul, ol { list-style: none; margin: 0; padding: 0; } p { margin: 2px 0; }
.row { display: flex; flex-wrap: wrap; gap: 0 8px; width: 100%; text-align: left; border: 0; border-radius: 0; border-bottom: 1px solid var(--band);
  padding: 4px 10px 4px calc(10px + 14px * var(--depth, 0)); background: none; }
.row[aria-current='true'] { background: var(--band); box-shadow: inset 4px 0 var(--accent); }
.row.off .label { text-decoration: line-through; }
.label { font-weight: 600; } .path, .states, .faint, dt { color: var(--faint); }
.raw { font-family: ui-monospace, monospace; overflow-wrap: anywhere; }
.found { font-weight: 600; }
[data-severity='error'] .found, [data-severity='error'] strong { color: var(--error); }
[data-severity='warning'] .found, [data-severity='warning'] strong { color: var(--warning); }
[data-severity='notice'] .found, [data-severity='notice'] strong { color: var(--notice); }
dl { display: grid; grid-template-columns: max-content minmax(0, 1fr); gap: 2px 10px; margin: 6px 0; } dd { margin: 0; overflow-wrap: anywhere; font-family: ui-monospace, monospace; }
.pane li { overflow-wrap: anywhere; }
.link { border: 0; padding: 0; min-height: 24px; background: none; color: var(--accent); text-decoration: underline; }
.lanes strong { display: block; background: var(--band); padding: 1px 4px; overflow-wrap: anywhere; }
.track { display: grid; grid-template-columns: 110px minmax(0, 1fr); align-items: center; gap: 6px; }
.name { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; padding-left: 8px; }
.line { position: relative; display: block; height: 18px; margin-right: 8px; }
.line i, .line b { position: absolute; } .line b { font-weight: 400; line-height: 18px; transform: translateX(-50%); color: var(--accent); }
.line b.dropped { color: var(--error); }
.line i { top: 4px; height: 10px; border-radius: 2px; }
.paused, .checking { border-top: 2px dashed var(--faint); top: 8px !important; height: 0 !important; } .asked, .sending { background: var(--accent); top: 7px !important; height: 4px !important; }
.line .found { background: var(--found); } .line .shown { background: var(--error); }
.legend { display: flex; flex-wrap: wrap; gap: 0 12px; color: var(--faint); }
.moments li { border-top: 1px solid var(--band); padding: 1px 0; }
@media (max-width: 700px) { :host { --height: 72vh; } aside { display: block; overflow: auto; } header { position: sticky; top: 0; z-index: 1; }
  .pane { border-left: 0; border-top: 1px solid var(--edge); max-height: 40vh; } .track { grid-template-columns: 80px minmax(0, 1fr); } }
`;

/** The style sheet. */
export function styleSheet(): CSSStyleSheet {
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(TEXT);
  return sheet;
}
