import { bootstrapApplication } from '@angular/platform-browser';
import { App } from './app/app';
import { appConfig } from './app/app.config';
import { floorPage } from './app/pages';
import { readEarly } from './app/shared/early';
import { wasIn } from './app/shared/session.service';

// Who is signed in is asked while the shell starts.
readEarly('/session');
// Page and data are fetched while the shell starts, not after it.
if (/^\/(floor)?$/.test(location.pathname)) {
  if (wasIn()) {
    readEarly('/shop');
    readEarly('/floor');
  }
  void floorPage();
}
void bootstrapApplication(App, appConfig);
