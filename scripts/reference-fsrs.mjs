// Makes core/practice/fsrs/testdata/ts-fsrs.json: 200 drawn histories of reviews, and what ts-fsrs makes of each.
// Needs npm: npm install --no-save ts-fsrs@5.4.2 && node scripts/reference-fsrs.mjs > core/practice/fsrs/testdata/ts-fsrs.json
import { FSRSAlgorithm, FSRSVersion, generatorParameters } from 'ts-fsrs'

let state = 20261129 // a small generator, so that the histories can be drawn anew
const random = () => {
  state = (Math.imul(state, 1664525) + 1013904223) >>> 0
  return state / 2 ** 32
}

const histories = []
for (let h = 0; h < 200; h++) {
  const wanted = [0.8, 0.9, 0.95][h % 3]
  const f = new FSRSAlgorithm(generatorParameters({ request_retention: wanted, enable_fuzz: false }))
  let memory = null
  const reviews = []
  for (let i = 0, n = 3 + Math.floor(random() * 18); i < n; i++) {
    const days = !memory || random() < 0.25 ? 0 : Math.floor(random() * random() * 200)
    const grade = 1 + Math.floor(random() * 4)
    const recall = memory ? f.forgetting_curve(days, memory.stability) : 0
    memory = f.next_state(memory, days, grade)
    reviews.push([days, grade, recall, memory.stability, memory.difficulty, f.next_interval(memory.stability, days)])
  }
  histories.push({ wanted, reviews })
}
const columns = ['days', 'grade', 'recall', 'stability', 'difficulty', 'due']
console.log(JSON.stringify({ made_by: `ts-fsrs ${FSRSVersion}`, columns, histories }))
