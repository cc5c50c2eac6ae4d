// Karma serves the specs of `core` and `web` to a headless Chromium on this machine.
process.env.CHROME_BIN ??= '/usr/bin/chromium';

const { readFileSync } = require('node:fs');

/** The geometry kernel's program, served beside the pages as the build does it. */
function kernel() {
  return (request, response, next) => {
    if (request.url !== '/manifold.wasm') return next();
    response.setHeader('Content-Type', 'application/wasm');
    response.end(readFileSync(require.resolve('manifold-3d/manifold.wasm')));
  };
}

module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher'), { 'middleware:kernel': ['factory', kernel] }],
    hostname: '127.0.0.1',
    listenAddress: '127.0.0.1',
    beforeMiddleware: ['kernel'],
    // A busy machine keeps a worker waiting.
    client: { jasmine: { timeoutInterval: 30_000 } },
    // A spec that computes for seconds answers nobody meanwhile; on a busy machine for many.
    pingTimeout: 240_000,
    browserNoActivityTimeout: 240_000,
    captureTimeout: 240_000,
    reporters: ['dots'],
    browsers: ['CI'],
    customLaunchers: {
      CI: {
        base: 'ChromeHeadless',
        flags: [
          '--no-sandbox',
          '--disable-gpu',
          '--disable-quic',
          '--no-first-run',
          '--disable-background-networking',
          '--disable-component-update',
          '--disable-sync',
        ],
      },
    },
    singleRun: true,
  });
