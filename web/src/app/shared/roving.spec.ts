import { Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Roving, farIn } from './roving.directive';

@Component({
  imports: [Roving],
  template: `
    <div kvRoving="button" style="display: grid; grid-template-columns: 40px 40px; width: 80px">
      <button>a</button><button>b</button><button>c</button><button>d</button>
    </div>
  `,
})
class Field {}

describe('a field that arrows walk', () => {
  it('is one stop for Tab, walked as it lies, and remembers where one was', async () => {
    const fixture = TestBed.createComponent(Field);
    document.body.append(fixture.nativeElement as HTMLElement);
    await fixture.whenStable();
    const buttons = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')];
    const stops = () => buttons.filter(({ tabIndex }) => tabIndex === 0).map(({ textContent }) => textContent);
    const key = (name: string) =>
      document.activeElement!.dispatchEvent(
        new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }),
      );
    buttons[0]!.focus();
    expect(stops()).toEqual(['a']);
    key('ArrowDown');
    expect([document.activeElement!.textContent, stops()]).toEqual(['c', ['c']]);
    key('ArrowRight');
    key('ArrowUp');
    expect(document.activeElement!.textContent).toBe('b');
    key('End');
    expect(stops()).toEqual(['d']);
    // Nothing lies beyond the end.
    key('ArrowDown');
    expect(document.activeElement!.textContent).toBe('d');
  });

  it('prefers what lies straight ahead to what is nearer at the side', () => {
    const from = { x: 0, y: 0 };
    expect(farIn('right', from, { x: 60, y: 0 })).toBeLessThan(farIn('right', from, { x: 30, y: 20 }));
    expect(farIn('right', from, { x: -10, y: 0 })).toBe(Infinity);
  });
});
