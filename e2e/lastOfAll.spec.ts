import { expect, test } from './acting';
import { endDry, openFlood, printed, toStage, verdict } from './waterActing';

// Ends the flood that other files look at while its water stands: the configuration lets this file begin last.
test('a slow leak fails with litres and cups a day, opens a defect and holds the tile', async ({ tablet: page }) => {
  await openFlood(page, '9 garden');
  await expect(verdict(page)).toContainText('Leaks');
  await expect(verdict(page)).toContainText(/about 4\.\d L or (18|19|20) cups of water a day/);
  await endDry(page, 'Leaks');
  await toStage(page, /Flood test/);
  await expect(page.getByText('Hold: it loses water that the air did not take.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Hold:/ })).toBeDisabled();
  await expect(page.getByRole('navigation', { name: 'Stages' })).toContainText('held below');
  const text = await printed(page);
  expect(text).toMatch(/Leaks\. It loses 0\.1\d in a day more than the air takes/);
  expect(text).toMatch(/lower bound for a fail 0\.(09|1\d) in/);
});
