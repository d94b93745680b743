import { createCipheriv } from 'node:crypto'
import { expect, test } from '@jest/globals'
import { readConfig } from './config'
import { seal, unseal } from './secrets'

test('a secret opens with its own key only', () => {
  const sealed = seal('open sesame', 'host.example')
  expect(unseal(sealed, 'host.example')).toBe('open sesame')
  expect(() => unseal(sealed, 'host.example', Buffer.alloc(32, 1))).toThrow('Enter the password again')
  expect(() => unseal(sealed, 'other.example')).toThrow('Enter the password again')
})

test('what was sealed before purposes had keys of their own opens: a nonce, a tag and the text, under the bare key', () => {
  const { key } = readConfig(process.env)
  const cipher = createCipheriv('aes-256-gcm', key, Buffer.alloc(12, 1))
  const text = Buffer.concat([cipher.update('open sesame'), cipher.final()])
  expect(unseal(Buffer.concat([Buffer.alloc(12, 1), cipher.getAuthTag(), text]), 'any use')).toBe(
    'open sesame',
  )
})
