import type { Locator } from '@playwright/test';

/** Chooses from a list of the page: it is opened, and what is wanted is tapped. */
export async function choose(list: Locator, option: string | RegExp): Promise<void> {
  await list
    .locator('xpath=ancestor-or-self::*[contains(concat(" ", @class, " "), " el-select ")][1]')
    .click();
  await list
    .page()
    .getByRole('option', { name: option, exact: typeof option === 'string' })
    .filter({ visible: true })
    .click();
}
