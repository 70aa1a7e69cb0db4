import type { components } from './schema'

type Schemas = components['schemas']

export type Design = Schemas['Design']
export type Choice = Schemas['Choice']
export type Field = Schemas['Field']
export type FieldKind = Schemas['FieldKind']
/** Every member that some part of a union has. */
type Merged<U> = (U extends unknown ? (x: U) => void : never) extends (x: infer I) => void ? I : never
type Settings<T, K extends PropertyKey> = Merged<{ [P in K & keyof T]-?: NonNullable<T[P]> }[K & keyof T]>
/** The settings of one kind of field or another; each kind has some of them. */
export type FieldSettings = Settings<Field, FieldKind>
export type Form = Schemas['Form']
export type Span = Schemas['Span']
export type Paragraph = Schemas['Paragraph']
export type Block = Schemas['Block']
export type BlockKind = Schemas['BlockKind']
/** The settings of one kind of block or another; each kind has some of them. */
export type BlockSettings = Settings<Block, BlockKind>
export type PaperDocument = Schemas['Document']
export type Match = Schemas['Match']
export type Placeholder = Schemas['Placeholder']
/** Something put at a place of a PDF. */
export type PageMark = Schemas['Mark']
export type PageBox = Schemas['PageBox']
export type Inspection = Schemas['Inspection']
export type Notice = Schemas['Notice']
export type Enclosure = Schemas['Enclosure']
export type Filing = Schemas['Filing']
export type RunningRegister = Schemas['Register']
export type RegisterProof = Schemas['RegisterProof']
export type RegisterFile = Schemas['RegisterFile']
export type Destination = Schemas['Destination']
export type DestinationLine = Schemas['DestinationLine']
export type Account = Schemas['Account']
export type AccountLine = Schemas['AccountLine']
export type TrialPart = Schemas['TrialPart']
export type Given = Schemas['Given']
export type Intake = Schemas['Intake']
export type IntakeLine = Schemas['IntakeLine']
export type Finding = Schemas['Finding']
export type PathFinding = Schemas['PathFinding']
export type Problem = Schemas['Problem']
export type Placement = Schemas['Placement']
export type DocumentProof = Schemas['DocumentProof']
export type NoticeProof = Schemas['NoticeProof']
export type FilingPath = Schemas['FilingPath']
/** Whose answers a proof shows. */
export type ProofSource = Pick<Schemas['ProofRequest'], 'answers' | 'submission' | 'language'>
export type Entry = Schemas['Entry']
export type Step = Schemas['Step']
export type RegisterPage = Schemas['RegisterPage']
export type Submission = Schemas['Submission']
export type Message = Schemas['Message']
export type WaitingMessage = Schemas['WaitingMessage']
export type Hold = Schemas['Hold']
export type HandedFile = Schemas['HandedFile']
export type Filed = Schemas['Filed']
export type Folder = Schemas['Folder']
export type House = Schemas['House']
export type Desk = Schemas['Desk']
export type Session = Schemas['Session']
export type Role = Schemas['Role']
export type Permission = Schemas['Permission']
export type Person = Schemas['Person']
export type PersonEntry = Schemas['PersonEntry']
export type PublicForm = Schemas['PublicForm']
export type Receipt = Schemas['Receipt']
export type Genuine = Schemas['Genuine']

/** An uploaded file as an answer names it. */
export type FileAnswer = Schemas['File']
/** A signature: drawn strokes, typed words, or an uploaded picture. */
export interface Mark {
  strokes?: number[][]
  width?: number
  height?: number
  typed?: string
  file?: FileAnswer
}
/** The answers of one row. */
export interface Row {
  [key: string]: Typed
}
/** An answer while it is being given: text, chosen values, yes or no, parts, files, a signature, rows. */
export type Typed = string | boolean | null | string[] | Record<string, string> | FileAnswer[] | Mark | Row[]

export type Checked = Schemas['Checked']
export type Whereabouts = Schemas['Whereabouts']
export type Place = Schemas['Place']
export type Mend = Schemas['Mend']
export type Clause = Schemas['Clause']
export type ReadFormula = Schemas['ReadFormula']
export type FormulaFunction = Schemas['FormulaFunction']
export type Version = Schemas['Version']
export type Opening = Schemas['Opening']
export type Constant = Schemas['Constant']
export type Invitation = Schemas['Invitation']
