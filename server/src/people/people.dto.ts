import { IsEmail, IsString, MaxLength, MinLength } from 'class-validator';
import type { ChangePassword, SetPassword, SignIn, SignUp } from '../api/api.js';
import { LONGEST_PASSWORD, SHORTEST_PASSWORD } from './passwords.js';

export class SignInBody implements SignIn {
  @IsString({ message: 'Give your address.' }) @MaxLength(200) email: string;
  @IsString({ message: 'Give your password.' }) @MaxLength(LONGEST_PASSWORD) password: string;
}

export class SetPasswordBody implements SetPassword {
  @IsString()
  @MinLength(SHORTEST_PASSWORD, { message: `A password has at least ${SHORTEST_PASSWORD} characters.` })
  @MaxLength(LONGEST_PASSWORD)
  password: string;
}

export class ChangePasswordBody extends SetPasswordBody implements ChangePassword {
  @IsString({ message: 'Give the password that you have now.' }) @MaxLength(LONGEST_PASSWORD) old: string;
}

export class SignUpBody extends SetPasswordBody implements SignUp {
  @IsEmail({}, { message: 'This is not an address that mail could reach.' }) @MaxLength(200) email: string;
  @IsString() @MinLength(1, { message: 'Give your name.' }) @MaxLength(100) name: string;
}
