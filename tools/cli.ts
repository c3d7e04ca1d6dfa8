/** Each verb loads what it needs and no more: a statistic needs no server. */
const [verb, ...rest] = process.argv.slice(2);

async function main(): Promise<number> {
  switch (verb) {
    case 'demo':
    case 'start':
    case 'reset-demo': {
      const options = (await import('./options.ts')).readOptions(rest);
      const { resetDemo, serve } = await import('./serve.ts');
      if (verb === 'reset-demo') await resetDemo();
      await serve(verb === 'start' ? 'real' : 'demo', options);
      return 0;
    }
    case 'stop':
      await (await import('./serve.ts')).stopAll();
      return 0;
    case 'backup':
      return (await import('./keeping-commands.ts')).runBackup(rest);
    case 'restore':
      return (await import('./keeping-commands.ts')).runRestore(rest);
    case 'verify':
      return (await import('./keeping-commands.ts')).runVerify(rest);
    case 'rebuild-outcomes':
      return (await import('./keeping-commands.ts')).runRebuild(rest);
    case 'pictures-back':
      return (await import('./keeping-commands.ts')).runPicturesBack(rest);
    case 'school':
      return (await import('./schools/school-commands.ts')).runSchool(rest);
    case 'new-password':
      return (await import('./keeping-commands.ts')).runNewPassword(rest);
    case 'stand-ins':
      return (await import('./stand-ins.ts')).runStandIns(rest);
    case 'mailbox':
      return (await import('./mailbox-command.ts')).runMailbox(rest);
    case 'object-store':
      return (await import('./object-store-command.ts')).runObjectStore(rest);
    case 'receiver':
      return (await import('./receiver-command.ts')).runReceiver(rest);
    case 'loss':
      return (await import('./loss-command.ts')).runLoss(rest);
    case 'stats':
      return (await import('./stats-command.ts')).runStats(rest);
    case 'make-faces':
      return (await import('./make-faces.ts')).runMakeFaces(rest);
    case 'grade-faces':
      return (await import('./grade-faces.ts')).runGradeFaces(rest);
    case 'card':
      return (await import('./card-command.ts')).runCard(rest);
    case 'make-cleaves':
      return (await import('./make-pictures.ts')).runMakePictures('cleave', rest);
    case 'make-splices':
      return (await import('./make-pictures.ts')).runMakePictures('splice', rest);
    case 'make-ends':
      return (await import('./make-ends.ts')).runMakeEnds(rest);
    case 'measure-cleave':
      return (await import('./measure-command.ts')).runMeasure('cleave', rest);
    case 'measure-splice':
      return (await import('./measure-command.ts')).runMeasure('splice', rest);
    case 'measure-end':
      return (await import('./measure-command.ts')).runMeasure('end', rest);
    case 'make-traces':
      return (await import('./trace-commands.ts')).runMakeTraces(rest);
    case 'read-traces':
      return (await import('./trace-commands.ts')).runReadTraces(rest);
    case 'test':
      return (await import('./test.ts')).runTests(rest);
    case 'bench':
      return (await import('./bench/bench.ts')).runBench(rest);
    default:
      console.error(`There is no '${verb}'.`);
      return 2;
  }
}

main().then(
  (code) => process.exit(code),
  (error: Error) => {
    console.error(error.message);
    if (process.env['CLEAR_MARK_LOG_LEVEL'] === 'debug') console.error(error.stack);
    process.exit(1);
  },
);

export {};
