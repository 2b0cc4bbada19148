import { Body, Controller, Delete, Get, Ip, Param, Post, Req, Res } from '@nestjs/common';
import { IsEmail, IsString, MaxLength, MinLength } from 'class-validator';
import type { Request, Response } from 'express';
import type { LinkInfo, SessionInfo, SetPassword, SignIn, SignUp } from '../api/api.js';
import { Courses } from '../courses/courses.service.js';
import { SignedIn, type Person } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Accounts } from './accounts.service.js';
import { Links } from './links.service.js';
import { Sessions } from './sessions.service.js';

export class SignInBody implements SignIn {
  @IsString({ message: 'Give your address.' }) @MaxLength(200) email: string;
  @IsString({ message: 'Give your password.' }) @MaxLength(200) password: string;
}

export class SetPasswordBody implements SetPassword {
  @IsString()
  @MinLength(10, { message: 'A password has at least 10 characters.' })
  @MaxLength(200)
  password: string;
}

export class SignUpBody extends SetPasswordBody implements SignUp {
  @IsEmail({}, { message: 'This is not an address that mail could reach.' }) @MaxLength(200) email: string;
  @IsString() @MinLength(1, { message: 'Give your name.' }) @MaxLength(100) name: string;
}

@Controller()
export class PeopleController {
  constructor(
    private readonly sessions: Sessions,
    private readonly accounts: Accounts,
    private readonly links: Links,
    private readonly courses: Courses,
  ) {}

  @Get('session')
  @Route('anyone', { answers: 'SessionInfo' })
  async session(@Req() request: Request): Promise<SessionInfo> {
    const identity = await this.sessions.identify(request);
    return {
      person: identity?.person ?? null,
      courses: identity ? await this.courses.of(identity.person) : [],
    };
  }

  @Post('session')
  @Route('anyone', { takes: 'SignIn', status: 204 })
  async signIn(
    @Body() body: SignInBody,
    @Ip() from: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    await this.sessions.open(await this.accounts.signIn(body.email, body.password, from), response);
  }

  @Delete('session')
  @Route('anyone', { status: 204 })
  async signOut(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    await this.sessions.close(request, response);
  }

  /** Signs the person out everywhere. */
  @Delete('sessions')
  @Route('person', { status: 204 })
  async signOutEverywhere(
    @SignedIn() person: Person,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    await this.sessions.closeAll(person, response);
  }

  @Post('people')
  @Route('anyone', { takes: 'SignUp', status: 204 })
  async signUp(
    @Body() body: SignUpBody,
    @Ip() from: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    const person = await this.accounts.signUp(body.email, body.name, body.password, from);
    await this.sessions.open(person, response);
  }

  /** Whom a one-time link is for. */
  @Get('password-links/:secret')
  @Route('anyone', { answers: 'LinkInfo' })
  async link(@Param('secret') secret: string, @Ip() from: string): Promise<LinkInfo> {
    const { name, email } = await this.links.personOf(secret, from);
    return { name, email };
  }

  /** Sets the password by a one-time link, and signs in. */
  @Post('password-links/:secret')
  @Route('anyone', { takes: 'SetPassword', status: 204 })
  async setPassword(
    @Param('secret') secret: string,
    @Body() { password }: SetPasswordBody,
    @Ip() from: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    await this.sessions.open(await this.links.use(secret, password, from), response);
  }
}
