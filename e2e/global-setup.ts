import { makeDemoTemplate } from '../tools/demo-template.ts';

/** Of a whole run it is there already, made while other tests ran. */
export default (): Promise<void> => makeDemoTemplate(process.env['CLEAR_MARK_TEST_CLUSTER'] ?? '');
