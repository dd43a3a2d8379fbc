/** What is pressed, typed or ticked before the page's scripts are there: kept, and done again once the page listens. */

interface Early {
  /** Button that was pressed down while React did not know it yet, and not let go. */
  pressed: HTMLElement | null;
  /** Buttons whose clicks were lost, in turn, each once; null since the page listens. */
  clicked: Set<HTMLElement> | null;
}

declare global {
  interface Window {
    dialtuneEarly?: Early;
  }
}

/** Types of fields whose text is what was typed: of others the browser makes another by itself. */
const TYPED = ['text', 'search', 'textarea'];

/**
 * Runs before the page is drawn. React may come to know a button by the very press, and then has handled it: that is asked behind React,
 * where an event that it handled hardly arrives. A click by pointer is lost where its press was.
 */
export const EARLY_SCRIPT = `{
const early=window.dialtuneEarly={pressed:null,clicked:new Set()};
const button=(e)=>e.isTrusted&&e.target.closest?.('button')||null;
const isKnown=(it)=>Object.keys(it).some((key)=>key.startsWith('__reactProps'));
const lost=(it)=>early.clicked?early.clicked.add(it):setTimeout(()=>it.click());
addEventListener('pointerdown',()=>{early.pressed=null},true);
addEventListener('pointerdown',(e)=>{const it=button(e);if(it&&!isKnown(it))early.pressed=it});
addEventListener('click',(e)=>{const it=button(e);if(it&&it===early.pressed)lost(it);early.pressed=null},true);
addEventListener('click',(e)=>{const it=button(e);if(it&&e.detail===0&&!isKnown(it))lost(it)});
}`;

/** To be called once what it shows listens. A second call does nothing. */
export function doEarly(): void {
  const early = window.dialtuneEarly;
  if (!early?.clicked) return;
  const { clicked } = early;
  early.clicked = null;
  for (const field of document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>('input, textarea')) {
    if (isTicked(field)) tickAgain(field);
    else if (TYPED.includes(field.type) && field.value !== field.defaultValue) typeAgain(field);
  }
  for (const button of clicked) successor(button)?.click();
}

/** The same button where the page has taken the place of the frame that was shown while it was on its way. */
const successor = (button: HTMLElement): HTMLElement | undefined =>
  button.isConnected ? button : [...document.querySelectorAll('button')].find((each) => nameOf(each) === nameOf(button));

const nameOf = (button: HTMLElement): string | null => button.getAttribute('aria-label') ?? button.textContent;

const isTicked = (field: HTMLInputElement | HTMLTextAreaElement): field is HTMLInputElement =>
  field instanceof HTMLInputElement && (field.type === 'checkbox' || field.type === 'radio') && field.checked !== field.defaultChecked;

/** React tells no change to a value that it believes is there: it is set back, and comes past React. */
function typeAgain(field: HTMLInputElement | HTMLTextAreaElement): void {
  const typed = field.value;
  field.value = field.defaultValue;
  Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), 'value')?.set?.call(field, typed);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

function tickAgain(field: HTMLInputElement): void {
  // Of radios only the one that was chosen: the others follow.
  if (field.type === 'radio' && !field.checked) return;
  field.checked = field.defaultChecked;
  field.click();
}
