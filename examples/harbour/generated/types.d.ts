// Made by gribo build; changes are overwritten.

/** Whom responses are for; an empty name stands for callers of no audience. */
export type Audience = "public" | "agent" | "harbourMaster" | "";

export interface VesselCardPage {
  readonly items: readonly VesselCard[];
  readonly page: {
    readonly number: number;
    readonly size: number;
    readonly total: number;
    readonly pages: number;
  };
}

export interface VesselCard {
  readonly id: number;
  readonly name: string;
  readonly callSign: string | null;
  readonly kind: "bulk" | "tanker" | "ferry" | "fishing" | "yacht" | "tug";
  readonly flag: string;
  readonly operatorName: string | null;
  /** Only where `operator` is asked for. */
  readonly operator?: OperatorBrief | null;
}

export interface OperatorBrief {
  readonly id: number;
  readonly name: string;
  readonly country: string;
}

export interface VesselDetail {
  readonly id: number;
  readonly name: string;
  readonly callSign: string | null;
  readonly kind: "bulk" | "tanker" | "ferry" | "fishing" | "yacht" | "tug";
  readonly flag: string;
  readonly operatorName: string | null;
  readonly operator: OperatorBrief | null;
  readonly imoNumber: string;
  readonly builtYear: number;
  readonly age: number;
  readonly size: {
    readonly length: number;
    readonly draught: number;
    /** A decimal as text. */
    readonly tonnage: string;
  };
  readonly portCalls: readonly PortCallLine[];
  readonly expected: PortCallLine | null;
  readonly notes?: string;
  /** A day, `YYYY-MM-DD`. */
  readonly registeredOn: string;
}

export interface PortCallLine {
  readonly id: string;
  readonly status: "announced" | "confirmed" | "berthed" | "sailed" | "cancelled";
  /** A moment in UTC (RFC 3339). */
  readonly eta?: string;
  readonly berth?: string | null;
}

export interface VesselDetailAgent {
  readonly id: number;
  readonly name: string;
  readonly callSign: string | null;
  readonly kind: "bulk" | "tanker" | "ferry" | "fishing" | "yacht" | "tug";
  readonly flag: string;
  readonly operatorName: string | null;
  readonly operator: OperatorBrief | null;
  readonly imoNumber: string;
  readonly builtYear: number;
  readonly age: number;
  readonly size: {
    readonly length: number;
    readonly draught: number;
    /** A decimal as text. */
    readonly tonnage: string;
  };
  readonly portCalls: readonly PortCallLineAgent[];
  readonly expected: PortCallLineAgent | null;
  readonly notes?: string;
  /** A day, `YYYY-MM-DD`. */
  readonly registeredOn: string;
}

export interface PortCallLineAgent {
  readonly id: string;
  readonly status: "announced" | "confirmed" | "berthed" | "sailed" | "cancelled";
  /** A moment in UTC (RFC 3339). */
  readonly eta: string;
  readonly berth: string | null;
}

export interface VesselDetailHarbourMaster {
  readonly id: number;
  readonly name: string;
  readonly callSign: string | null;
  readonly kind: "bulk" | "tanker" | "ferry" | "fishing" | "yacht" | "tug";
  readonly flag: string;
  readonly operatorName: string | null;
  readonly operator: OperatorBrief | null;
  readonly imoNumber: string;
  readonly builtYear: number;
  readonly age: number;
  readonly size: {
    readonly length: number;
    readonly draught: number;
    /** A decimal as text. */
    readonly tonnage: string;
  };
  readonly portCalls: readonly PortCallLineAgent[];
  readonly expected: PortCallLineAgent | null;
  readonly masterPhone: string | null;
  readonly notes?: string;
  /** A day, `YYYY-MM-DD`. */
  readonly registeredOn: string;
}

export interface OperatorDetail {
  readonly id: number;
  readonly name: string;
  readonly country: string;
  readonly group: string | null;
  readonly phone: string | null;
  readonly fleet: number;
}

export interface OperatorDetailHarbourMaster {
  readonly id: number;
  readonly name: string;
  readonly country: string;
  readonly group: string | null;
  readonly phone: string | null;
  readonly email: string | null;
  readonly fleet: number;
}

export interface ArrivalPage {
  readonly items: readonly Arrival[];
  readonly page: {
    readonly number: number;
    readonly size: number;
    readonly total: number;
    readonly pages: number;
  };
}

export interface Arrival {
  readonly id: string;
  readonly status: "announced" | "confirmed" | "berthed" | "sailed" | "cancelled";
  /** A moment in UTC (RFC 3339). */
  readonly eta?: string;
  readonly berth?: string | null;
  readonly vessel: VesselName;
}

export interface VesselName {
  readonly id: number;
  readonly name: string;
}

export interface ArrivalPageAgent {
  readonly items: readonly ArrivalAgent[];
  readonly page: {
    readonly number: number;
    readonly size: number;
    readonly total: number;
    readonly pages: number;
  };
}

export interface ArrivalAgent {
  readonly id: string;
  readonly status: "announced" | "confirmed" | "berthed" | "sailed" | "cancelled";
  /** A moment in UTC (RFC 3339). */
  readonly eta: string;
  readonly berth: string | null;
  readonly vessel: VesselName;
}

export interface PortCallDetail {
  readonly id: string;
  readonly status: "announced" | "confirmed" | "berthed" | "sailed" | "cancelled";
  /** A moment in UTC (RFC 3339). */
  readonly eta?: string;
  readonly berth?: string | null;
  readonly vessel: VesselName;
  /** A moment in UTC (RFC 3339). */
  readonly etd?: string | null;
  /** A moment in UTC (RFC 3339). */
  readonly arrivedAt?: string;
  /** Only where `cargo` is asked for. */
  readonly cargo?: readonly CargoLine[];
}

export interface CargoLine {
  readonly id: number;
  readonly commodity: string;
  /** A whole number as text. */
  readonly weightKg: string;
  readonly hazardClass?: string;
}

export interface PortCallDetailAgent {
  readonly id: string;
  readonly status: "announced" | "confirmed" | "berthed" | "sailed" | "cancelled";
  /** A moment in UTC (RFC 3339). */
  readonly eta: string;
  readonly berth: string | null;
  readonly vessel: VesselName;
  /** A moment in UTC (RFC 3339). */
  readonly etd: string | null;
  /** A moment in UTC (RFC 3339). */
  readonly arrivedAt?: string;
  readonly dues: {
    readonly amount: number;
    readonly currency: "MQC";
  };
  readonly remarks: string | null;
  readonly hazard?: {
    readonly detail: string | null;
  };
  /** Only where `cargo` is asked for. */
  readonly cargo?: readonly CargoLine[];
}

export interface PortCallDetailHarbourMaster {
  readonly id: string;
  readonly status: "announced" | "confirmed" | "berthed" | "sailed" | "cancelled";
  /** A moment in UTC (RFC 3339). */
  readonly eta: string;
  readonly berth: string | null;
  readonly vessel: VesselName;
  /** A moment in UTC (RFC 3339). */
  readonly etd: string | null;
  /** A moment in UTC (RFC 3339). */
  readonly arrivedAt?: string;
  readonly dues: {
    readonly amount: number;
    readonly currency: "MQC";
  };
  readonly remarks: string | null;
  readonly hazard?: {
    readonly detail: string | null;
  };
  /** Only where `cargo` is asked for. */
  readonly cargo?: readonly CargoLine[];
  readonly pilots: readonly PilotName[];
  readonly changed: {
    /** A moment in UTC (RFC 3339). */
    readonly at: string;
    readonly by: string | null;
  };
}

export interface PilotName {
  readonly id: number;
  readonly name: string;
}

export interface Berth {
  readonly id: number;
  readonly code: string;
  readonly name: string;
  readonly quay: string;
  readonly maxDraught: number;
  readonly inService: boolean;
  readonly description: string;
}

export interface BerthRead {
  readonly id: number;
  readonly code: string;
  readonly name: string;
  readonly quay: QuayName;
  readonly maxDraught: number;
  readonly maxLength: number;
  readonly inService: boolean;
  readonly description: string;
}

export interface QuayName {
  readonly id: number;
  readonly name: string;
}

export interface BerthReadAgent {
  readonly id: number;
  readonly code: string;
  readonly name: string;
  readonly quay: QuayName;
  readonly maxDraught: number;
  readonly maxLength: number;
  readonly inService: boolean;
  readonly description: string;
  readonly calls: number;
}

export interface BerthReadHarbourMaster {
  readonly id: number;
  readonly code: string;
  readonly name: string;
  readonly quay: QuayName;
  readonly maxDraught: number;
  readonly maxLength: number;
  readonly inService: boolean;
  readonly description: string;
  readonly gateCode: string;
  readonly calls: number;
}

export interface BerthOptions {
  readonly id: number;
  readonly code: string;
  readonly name: string;
}

export interface PilotLinePage {
  readonly items: readonly PilotLine[];
  readonly page: {
    readonly number: number;
    readonly size: number;
    readonly total: number;
    readonly pages: number;
  };
}

export interface PilotLine {
  readonly id: number;
  readonly name: string;
  readonly licence: "any vessel" | "up to 180 m" | "up to 90 m";
}

export interface QuayTree {
  readonly id: number;
  readonly name: string;
  readonly berths: number;
  readonly parts: readonly QuayTree2[];
}

export interface QuayTree2 {
  readonly id: number;
  readonly name: string;
  readonly berths: number;
  readonly parts: readonly QuayTree3[];
}

export interface QuayTree3 {
  readonly id: number;
  readonly name: string;
  readonly berths: number;
}

export interface PositionLine {
  /** A whole number as text. */
  readonly id: string;
  /** A moment in UTC (RFC 3339). */
  readonly at: string;
  readonly lat: number;
  readonly lon: number;
  readonly speedKn: number;
  /** Base64. */
  readonly raw: string | null;
}

export interface NewVessel {
  readonly imoNumber: string;
  readonly name: string;
  readonly callSign?: string | null;
  readonly kind: "bulk" | "tanker" | "ferry" | "fishing" | "yacht" | "tug";
  readonly flag: string;
  readonly builtYear: number;
  readonly size: {
    readonly length: number;
    readonly draught: number;
    /** A decimal as text. */
    readonly tonnage: string;
  };
  readonly operator: {
    readonly id: number | null;
  } | null;
  readonly masterPhone?: string | null;
  readonly notes?: string | null;
}

export interface ReplaceVessel {
  readonly name: string;
  readonly callSign: string | null;
  readonly kind: "bulk" | "tanker" | "ferry" | "fishing" | "yacht" | "tug";
  readonly flag: string;
  readonly builtYear: number;
  readonly size: {
    readonly length: number;
    readonly draught: number;
    /** A decimal as text. */
    readonly tonnage: string;
  };
  readonly operator: {
    readonly id: number | null;
  } | null;
  readonly masterPhone: string | null;
  readonly notes: string | null;
}

export interface EditVessel {
  readonly name?: string;
  readonly callSign?: string | null;
  readonly kind?: "bulk" | "tanker" | "ferry" | "fishing" | "yacht" | "tug";
  readonly flag?: string;
  readonly builtYear?: number;
  readonly size?: {
    readonly length?: number;
    readonly draught?: number;
    /** A decimal as text. */
    readonly tonnage?: string;
  };
  readonly operator?: {
    readonly id?: number | null;
  } | null;
  readonly masterPhone?: string | null;
  readonly notes?: string | null;
}

export interface NewPortCall {
  readonly id: string;
  readonly vessel: {
    readonly id: number;
  };
  readonly berth?: {
    readonly id: number | null;
  } | null;
  readonly status?: "announced" | "confirmed" | "berthed" | "sailed" | "cancelled";
  /** A moment in UTC (RFC 3339). */
  readonly eta: string;
  /** A moment in UTC (RFC 3339). */
  readonly etd?: string | null;
  readonly hazardous: boolean;
  readonly hazard?: {
    readonly detail: string | null;
  } | null;
  /** A decimal as text. */
  readonly dues?: string;
  readonly remarks?: string | null;
  /** A moment in UTC (RFC 3339). */
  readonly embargoUntil?: string | null;
  readonly cargo?: readonly NewCargo[];
}

export interface NewCargo {
  readonly commodity: string;
  readonly weightKg: number;
  readonly hazardClass?: string | null;
  readonly consignee: string;
}

export interface ReplacePortCall {
  readonly berth: {
    readonly id: number | null;
  } | null;
  readonly status: "announced" | "confirmed" | "berthed" | "sailed" | "cancelled";
  /** A moment in UTC (RFC 3339). */
  readonly eta: string;
  /** A moment in UTC (RFC 3339). */
  readonly etd: string | null;
  readonly hazardous: boolean;
  readonly hazard: {
    readonly detail: string | null;
  } | null;
  /** A decimal as text. */
  readonly dues: string;
  readonly remarks: string | null;
  /** A moment in UTC (RFC 3339). */
  readonly embargoUntil: string | null;
  readonly cargo: readonly NewCargo[];
}

export interface EditPortCall {
  readonly berth?: {
    readonly id?: number | null;
  } | null;
  readonly status?: "announced" | "confirmed" | "berthed" | "sailed" | "cancelled";
  /** A moment in UTC (RFC 3339). */
  readonly eta?: string;
  /** A moment in UTC (RFC 3339). */
  readonly etd?: string | null;
  readonly hazardous?: boolean;
  readonly hazard?: {
    readonly detail?: string | null;
  } | null;
  /** A decimal as text. */
  readonly dues?: string;
  readonly remarks?: string | null;
  /** A moment in UTC (RFC 3339). */
  readonly embargoUntil?: string | null;
  readonly cargo?: readonly NewCargo[];
}

export interface Cancellation {
  readonly reason: string;
}

export interface Reservation {
  /** The berth’s number. */
  readonly berth: number;
  readonly pilot?: number;
}

export interface NewPosition {
  readonly vesselId: number;
  /** A moment in UTC (RFC 3339). */
  readonly at: string;
  readonly lat: number;
  readonly lon: number;
  readonly speedKn: number;
  /** Base64. */
  readonly raw?: string | null;
}

/** What each endpoint sends, by audience. */
export interface Responses {
  readonly "vessels.list": { readonly "": VesselCardPage; readonly public: VesselCardPage; readonly agent: VesselCardPage; readonly harbourMaster: VesselCardPage };
  readonly "vessels.read": { readonly "": VesselDetail; readonly public: VesselDetail; readonly agent: VesselDetailAgent; readonly harbourMaster: VesselDetailHarbourMaster };
  readonly "vessels.create": { readonly agent: VesselDetailAgent; readonly harbourMaster: VesselDetailHarbourMaster };
  readonly "vessels.replace": { readonly agent: VesselDetailAgent; readonly harbourMaster: VesselDetailHarbourMaster };
  readonly "vessels.amend": { readonly agent: VesselDetailAgent; readonly harbourMaster: VesselDetailHarbourMaster };
  readonly "vessels.photo": { readonly public: Blob; readonly agent: Blob; readonly harbourMaster: Blob; readonly "": Blob };
  readonly "operators.read": { readonly "": OperatorDetail; readonly public: OperatorDetail; readonly agent: OperatorDetail; readonly harbourMaster: OperatorDetailHarbourMaster };
  readonly "portCalls.list": { readonly "": ArrivalPage; readonly public: ArrivalPage; readonly agent: ArrivalPageAgent; readonly harbourMaster: ArrivalPageAgent };
  readonly "portCalls.read": { readonly "": PortCallDetail; readonly public: PortCallDetail; readonly agent: PortCallDetailAgent; readonly harbourMaster: PortCallDetailHarbourMaster };
  readonly "portCalls.create": { readonly agent: PortCallDetailAgent; readonly harbourMaster: PortCallDetailHarbourMaster };
  readonly "portCalls.replace": { readonly agent: PortCallDetailAgent; readonly harbourMaster: PortCallDetailHarbourMaster };
  readonly "portCalls.amend": { readonly agent: PortCallDetailAgent; readonly harbourMaster: PortCallDetailHarbourMaster };
  readonly "portCalls.cancel": { readonly agent: PortCallDetailAgent; readonly harbourMaster: PortCallDetailHarbourMaster };
  readonly "portCalls.reserve": { readonly agent: ArrivalAgent; readonly harbourMaster: ArrivalAgent };
  readonly "cargo.list": { readonly "": readonly CargoLine[]; readonly public: readonly CargoLine[]; readonly agent: readonly CargoLine[]; readonly harbourMaster: readonly CargoLine[] };
  readonly "berths.list": { readonly "": readonly Berth[]; readonly public: readonly Berth[]; readonly agent: readonly Berth[]; readonly harbourMaster: readonly Berth[] };
  readonly "berths.read": { readonly "": BerthRead; readonly public: BerthRead; readonly agent: BerthReadAgent; readonly harbourMaster: BerthReadHarbourMaster };
  readonly "berths.options": { readonly "": readonly BerthOptions[]; readonly public: readonly BerthOptions[]; readonly agent: readonly BerthOptions[]; readonly harbourMaster: readonly BerthOptions[] };
  readonly "pilots.list": { readonly harbourMaster: PilotLinePage };
  readonly "pilots.read": { readonly harbourMaster: PilotLine };
  readonly "quays.list": { readonly "": readonly QuayTree[]; readonly public: readonly QuayTree[]; readonly agent: readonly QuayTree[]; readonly harbourMaster: readonly QuayTree[] };
  readonly "positions.list": { readonly "": readonly PositionLine[]; readonly public: readonly PositionLine[]; readonly agent: readonly PositionLine[]; readonly harbourMaster: readonly PositionLine[] };
}

/** What each endpoint takes, by audience. */
export interface Requests {
  readonly "vessels.create": { readonly agent: NewVessel; readonly harbourMaster: NewVessel };
  readonly "vessels.replace": { readonly agent: ReplaceVessel; readonly harbourMaster: ReplaceVessel };
  readonly "vessels.amend": { readonly agent: EditVessel; readonly harbourMaster: EditVessel };
  readonly "portCalls.create": { readonly agent: NewPortCall; readonly harbourMaster: NewPortCall };
  readonly "portCalls.replace": { readonly agent: ReplacePortCall; readonly harbourMaster: ReplacePortCall };
  readonly "portCalls.amend": { readonly agent: EditPortCall; readonly harbourMaster: EditPortCall };
  readonly "portCalls.cancel": { readonly agent: Cancellation; readonly harbourMaster: Cancellation };
  readonly "portCalls.reserve": { readonly agent: Reservation; readonly harbourMaster: Reservation };
  readonly "cargo.create": { readonly agent: readonly NewCargo[]; readonly harbourMaster: readonly NewCargo[] };
  readonly "positions.create": { readonly agent: readonly NewPosition[]; readonly harbourMaster: readonly NewPosition[] };
}

/** The files that each endpoint takes. */
export interface Files {
  readonly "vessels.setPhoto": { readonly image: Blob };
}

/** The parameters in the path of each endpoint. */
export interface PathParameters {
  readonly "vessels.read": { readonly id: string | number };
  readonly "vessels.replace": { readonly id: string | number };
  readonly "vessels.amend": { readonly id: string | number };
  readonly "vessels.remove": { readonly id: string | number };
  readonly "vessels.photo": { readonly vesselId: string | number };
  readonly "vessels.setPhoto": { readonly vesselId: string | number };
  readonly "operators.read": { readonly id: string | number };
  readonly "portCalls.read": { readonly id: string | number };
  readonly "portCalls.replace": { readonly id: string | number };
  readonly "portCalls.amend": { readonly id: string | number };
  readonly "portCalls.remove": { readonly id: string | number };
  readonly "portCalls.cancel": { readonly id: string | number };
  readonly "portCalls.reserve": { readonly id: string | number };
  readonly "cargo.list": { readonly portCall: string | number };
  readonly "cargo.create": { readonly portCall: string | number };
  readonly "berths.read": { readonly id: string | number };
  readonly "pilots.read": { readonly id: string | number };
}

/** The query parameters of each endpoint. */
export interface Queries {
  readonly "vessels.list": { readonly flag?: string; readonly builtAfter?: number; readonly q?: string; readonly size?: number; readonly page?: number; readonly sort?: readonly ("name" | "name desc" | "builtYear" | "builtYear desc")[]; readonly with?: readonly ("operator")[]; readonly fields?: readonly string[] };
  readonly "vessels.read": { readonly fields?: readonly string[] };
  readonly "vessels.create": { readonly fields?: readonly string[] };
  readonly "vessels.replace": { readonly fields?: readonly string[] };
  readonly "vessels.amend": { readonly fields?: readonly string[] };
  readonly "operators.read": { readonly fields?: readonly string[] };
  readonly "portCalls.list": { readonly status?: readonly ("announced" | "confirmed" | "berthed" | "sailed" | "cancelled")[]; readonly from?: string; readonly vessel?: string; readonly size?: number; readonly page?: number; readonly sort?: readonly ("eta" | "eta desc" | "status" | "status desc" | "vessel.name" | "vessel.name desc")[]; readonly fields?: readonly string[] };
  readonly "portCalls.read": { readonly with?: readonly ("cargo")[]; readonly fields?: readonly string[] };
  readonly "portCalls.create": { readonly with?: readonly ("cargo")[]; readonly fields?: readonly string[] };
  readonly "portCalls.replace": { readonly with?: readonly ("cargo")[]; readonly fields?: readonly string[] };
  readonly "portCalls.amend": { readonly with?: readonly ("cargo")[]; readonly fields?: readonly string[] };
  readonly "portCalls.cancel": { readonly dryRun?: boolean; readonly with?: readonly ("cargo")[]; readonly fields?: readonly string[] };
  readonly "portCalls.reserve": { readonly fields?: readonly string[] };
  readonly "cargo.list": { readonly fields?: readonly string[] };
  readonly "berths.list": { readonly fields?: readonly string[] };
  readonly "berths.read": { readonly fields?: readonly string[] };
  readonly "berths.options": { readonly fields?: readonly string[] };
  readonly "pilots.list": { readonly size?: number; readonly page?: number; readonly fields?: readonly string[] };
  readonly "pilots.read": { readonly fields?: readonly string[] };
  readonly "quays.list": { readonly fields?: readonly string[] };
  readonly "positions.list": { readonly fields?: readonly string[] };
}

/** The problems of each endpoint’s own, told apart by their codes. */
export interface Problems {
  readonly "portCalls.cancel": { readonly code: "not-expected"; readonly status: 409; readonly callStatus: string };
  readonly "portCalls.reserve": { readonly code: "not-expected"; readonly status: 409; readonly callStatus: string } | { readonly code: "does-not-fit"; readonly status: 409; readonly draughtM: number; readonly maxDraughtM: number };
}
