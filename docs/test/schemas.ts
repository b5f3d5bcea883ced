// The schemas that pages of the documentation declare, as modules that export them and do nothing else.

import ts from 'typescript';

/** What is only there on a page, or does something at once. */
const RUNS = /^(document|window|location|localStorage|createGate|bindForm|use[A-Z]\w*)$/;

/** Whether something needs what is not kept. Functions that are only declared may use a page. @param dropped the names that are not there */
function needs(node: ts.Node, dropped: ReadonlySet<string>, isCalled = true): boolean {
  if (ts.isFunctionLike(node)) isCalled = false;
  if (ts.isAwaitExpression(node)) return isCalled;
  if (ts.isIdentifier(node) && ((isCalled && RUNS.test(node.text)) || dropped.has(node.text))) return true;
  return node.getChildren().some((child) => needs(child, dropped, isCalled));
}

/** Whether a function uses a page: then nothing that calls it is kept. */
const usesPage = (node: ts.Node): boolean => (ts.isIdentifier(node) && RUNS.test(node.text)) || node.getChildren().some(usesPage);

/** A module without what it does: its imports, its functions, and the values that it declares without a page. */
export function declarationsOf(module: string): string {
  const source = ts.createSourceFile('page.tsx', module, ts.ScriptTarget.ES2022, true, ts.ScriptKind.TSX);
  const names: string[] = [];
  const dropped = new Set<string>();
  const kept = source.statements.filter((statement) => {
    if (ts.isImportDeclaration(statement)) {
      const isOurs = /^'upper-gate(\/[\w/-]+)?'$/.test(statement.moduleSpecifier.getText());
      if (!isOurs) for (const [name] of statement.getText().matchAll(/\w+(?=[\s,}]*from|\s*,|\s*\})/g)) dropped.add(name);
      return isOurs;
    }
    if (ts.isFunctionDeclaration(statement) && usesPage(statement)) {
      dropped.add(statement.name!.text);
      return false;
    }
    if (ts.isFunctionDeclaration(statement) || ts.isInterfaceDeclaration(statement) || ts.isTypeAliasDeclaration(statement)) return true;
    if (!ts.isVariableStatement(statement)) return false;
    const { declarations } = statement.declarationList;
    const own = declarations.flatMap(({ name }) => name.getText().match(/\w+/g) ?? []);
    const isKept = declarations.every(
      ({ name, initializer }) => ts.isIdentifier(name) && initializer && !needs(initializer, dropped) && !(ts.isFunctionLike(initializer) && usesPage(initializer)),
    );
    if (isKept) names.push(...own);
    else for (const name of own) dropped.add(name);
    return isKept;
  });
  const text = `${kept.map((each) => each.getText().replace(/^(export|declare) /, '')).join('\n')}\nexport { ${names.join(', ')} };\n`;
  return ts.transpileModule(text, { compilerOptions: { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022, jsx: ts.JsxEmit.ReactJSX } }).outputText;
}
