import { bootstrapApplication } from '@angular/platform-browser';
import { App } from './app/app';
import { appConfig } from './app/app.config';
import { floorPage } from './app/routes';

// Fetched while the shell starts, not after it.
if (/^\/(floor)?$/.test(location.pathname)) void floorPage();
void bootstrapApplication(App, appConfig);
