// Karma serves the specs of `core` and `web` to a headless Chromium on this machine.
process.env.CHROME_BIN ??= '/usr/bin/chromium';

module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    hostname: '127.0.0.1',
    listenAddress: '127.0.0.1',
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
