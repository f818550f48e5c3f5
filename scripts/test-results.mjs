// What the test runners write into their result files, as counts and failures in words.

/** The start of a message: what a reader needs to find the cause, without the whole stack. */
const brief = (message) => message.split('\n').slice(0, 12).join('\n');

/**
 * Counts and failures of a Vitest result file.
 * A file that fails outside its tests (it cannot be loaded, its setup throws) is one failure.
 */
export function unitResult(results) {
  const failures = results.testResults.flatMap((file) => {
    const tests = file.assertionResults.filter((test) => test.status === 'failed');
    if (tests.length === 0 && file.status === 'failed') return [`${file.name}\n${brief(file.message)}`];
    return tests.map((test) => `${file.name} > ${test.fullName}\n${brief(test.failureMessages.join('\n'))}`);
  });
  return { passed: results.numPassedTests, failures };
}

/** Counts and failures of a Playwright result file; errors outside any test are failures too. */
export function journeysResult(results) {
  const specs = [];
  const collect = (suite) => {
    specs.push(...(suite.specs ?? []));
    suite.suites?.forEach(collect);
  };
  results.suites.forEach(collect);
  const failures = specs
    .filter((spec) => !spec.ok)
    .map((spec) => {
      const errors = spec.tests.flatMap((test) => test.results.flatMap((result) => result.errors));
      return `${spec.file}:${spec.line} > ${spec.title}\n${brief(errors.map((error) => error.message).join('\n'))}`;
    });
  const outside = results.errors.map((error) => brief(error.message));
  return { passed: results.stats.expected + results.stats.flaky, failures: [...failures, ...outside] };
}
