import { gradeFile } from '../grade-file.ts';

for (const file of JSON.parse(process.argv[2]!) as string[]) await gradeFile(file, 'sm-pc');
