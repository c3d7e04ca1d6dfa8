import { makeTemplate } from './world.ts';

export default makeTemplate;
