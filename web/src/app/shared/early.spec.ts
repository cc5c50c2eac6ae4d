import { TestBed } from '@angular/core/testing';
import { firstValueFrom } from 'rxjs';
import { bed } from '../testing/screen';
import { Api } from './api.service';
import { readEarly } from './early';

describe('what is read while the application starts', () => {
  const answerWith = (response: () => Promise<Response>) => spyOn(window, 'fetch').and.callFake(response);

  it('is taken once; the next reading asks again', async () => {
    const http = bed();
    answerWith(() => Promise.resolve(new Response('{"change":7}')));
    readEarly('/floor');
    const api = TestBed.inject(Api);
    expect(await firstValueFrom(api.get<{ change: number }>('/floor'))).toEqual({ change: 7 });
    http.expectNone('/api/floor');
    const again = firstValueFrom(api.get<{ change: number }>('/floor'));
    http.expectOne('/api/floor').flush({ change: 8 });
    expect(await again).toEqual({ change: 8 });
  });

  it('is read as usual where the early reading failed, so that its error is told', async () => {
    const http = bed();
    answerWith(() => Promise.resolve(new Response('', { status: 503 })));
    readEarly('/floor');
    const asked = firstValueFrom(TestBed.inject(Api).get('/floor'));
    await new Promise((resolve) => setTimeout(resolve));
    http
      .expectOne('/api/floor')
      .flush({ error: { code: 'unavailable', message: 'away' } }, { status: 503, statusText: 'away' });
    await expectAsync(asked).toBeRejectedWithError('away');
  });
});
