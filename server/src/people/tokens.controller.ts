import { Body, Controller, Delete, Get, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ArrayNotEmpty, IsIn, IsInt, IsString, Max, MaxLength, Min, MinLength } from 'class-validator';
import type { MadeToken, NewToken, TokenInfo, TokenScope } from '../api/api.js';
import { SignedIn, TOKEN_SCOPES, type Person } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Tokens } from './tokens.service.js';

export class NewTokenBody implements NewToken {
  @IsString() @MinLength(1, { message: 'Give the token a name.' }) @MaxLength(100) name: string;
  @ArrayNotEmpty({ message: 'A token that may do nothing is of no use.' })
  @IsIn(TOKEN_SCOPES, { each: true, message: `A scope is one of ${TOKEN_SCOPES.join(', ')}.` })
  scopes: TokenScope[];
  @IsInt() @Min(1) @Max(400) days: number;
}

/** A person's own tokens. No token makes, lists or revokes tokens. */
@Controller('tokens')
export class TokensController {
  constructor(private readonly tokens: Tokens) {}

  @Get()
  @Route('person', { answers: 'TokenInfo', list: true })
  list(@SignedIn() person: Person): Promise<TokenInfo[]> {
    return this.tokens.of(person);
  }

  @Post()
  @Route('person', { takes: 'NewToken', answers: 'MadeToken', status: 201 })
  make(@SignedIn() person: Person, @Body() { name, scopes, days }: NewTokenBody): Promise<MadeToken> {
    return this.tokens.make(person, name, scopes, days);
  }

  @Delete(':token')
  @Route('person', { status: 204 })
  revoke(@SignedIn() person: Person, @Param('token', ParseUUIDPipe) id: string): Promise<void> {
    return this.tokens.revoke(person, id);
  }
}
