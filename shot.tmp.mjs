import { chromium } from 'playwright-core';
const [,, out, path='/', w='1280', h='800', theme='light', action=''] = process.argv;
const b = await chromium.launch({executablePath:'/usr/bin/chromium', args:['--no-sandbox','--disable-gpu','--disable-quic','--disable-background-networking','--disable-component-update','--disable-sync','--no-first-run']});
const c = await b.newContext({viewport:{width:+w,height:+h}, colorScheme: theme});
const p = await c.newPage();
p.on('console', m => { if (m.type()==='error') console.log('console:', m.text()); });
await p.goto('http://127.0.0.1:7420/');
if (path !== 'signin') { await p.getByLabel('Name').fill('marit'); await p.getByLabel('Password').fill('lantern-at-the-quay'); await p.getByRole('button',{name:'Sign in'}).click(); await p.getByRole('heading',{name:'The yard'}).waitFor(); await p.goto('http://127.0.0.1:7420'+path); }
await p.waitForTimeout(1200);
if (action) { await p.getByRole('tab',{name:action}).or(p.getByRole('button',{name:action})).first().click(); await p.waitForTimeout(800); }
await p.screenshot({path: out}); await b.close();
