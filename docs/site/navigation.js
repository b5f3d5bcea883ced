/** What stands beside each page: its place (a path without its ending) and what it is called there. */
export const NAVIGATION = Object.entries({
  Start: {
    index: 'What it is',
    'quick-start': 'Quick start',
    concepts: 'Concepts',
    'from-html': 'Coming from HTML',
  },
  Declare: {
    declaring: 'Fields and rules',
    'cross-field': 'Rules between fields',
    structure: 'Groups, lists, variants',
    'async-rules': 'Async rules',
    'own-rules': 'Your own rules and kinds',
    messages: 'Messages and languages',
  },
  Run: {
    validating: 'Validate a value',
    running: 'Run a form',
    submitting: 'Submit',
    steps: 'Steps of a wizard',
    saving: 'Drafts and saving',
    seeing: 'See what a form did',
  },
  Bind: {
    'plain-pages': 'Plain pages',
    react: 'React',
    vue: 'Vue',
    kits: 'Component kits',
    bindings: 'Compare, or write your own',
    accessibility: 'Accessibility',
  },
  'Beyond the page': {
    server: 'Server',
    'command-line': 'Command line',
    interchange: 'HTML, JSON Schema, others',
    openapi: 'OpenAPI',
    testing: 'Test a form',
    lint: 'Find faults in a schema',
    versions: 'Versions and browsers',
  },
  Recipes: {
    'recipes/index': 'All recipes',
  },
  Look: {
    'reference/index': 'API reference',
    questions: 'Everyday questions',
    troubleshooting: 'Troubleshooting',
    performance: 'Performance',
    reliability: 'Reliability',
    'html-agreement': 'Agreement with browsers',
    architecture: 'Architecture',
  },
}).map(([title, pages]) => ({ title, pages: Object.entries(pages).map(([stem, label]) => ({ stem, label })) }));
