/** Loss tables, budgets and links, without the method library: what a page that draws a link needs. */
export { type ExampleLink, EXAMPLE_LINKS } from './example-links.ts';
export { type DescribedLink, linkOfAttempt } from './link-of-attempt.ts';
export { LOSS_REFERENCE_RULES, lossRulesFor, shippedBudget } from './loss-rules.ts';
