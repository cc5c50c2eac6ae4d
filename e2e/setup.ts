// Loaded before the journeys: a browser takes its time.
jasmine.DEFAULT_TIMEOUT_INTERVAL = 600_000;
