import { chromium } from '@playwright/test'
import { launch } from './chromium.js'
const base='http://127.0.0.1:8431'
const browser = await chromium.launch(launch)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.request.post(`${base}/api/demo/session`, { data: { personId: 1 } })
const { students } = await (await page.request.get(`${base}/api/assessments/4/absent?met=true`)).json()
const pick = [...students.filter(s=>!s.begun).slice(0,4), ...students.filter(s=>s.begun && s.door!=='open').slice(0,3)]
const r = await page.request.post(`${base}/api/assessments/4/makeups`, { data: { room: 'Library', proctorId: 1592, opens: '2026-11-30T13:00', closes: '2026-11-30T17:00', seats: pick.map(s=>({sittingId:s.sittingId,studentId:s.studentId})) } })
console.log(r.status(), await r.text())
await browser.close()
