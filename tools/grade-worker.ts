import { gradeFile } from './grade-file.ts';

process.on('message', ({ file, criteria }: { file: string; criteria: string }) => {
  void gradeFile(file, criteria).then((result) => process.send!(result));
});
