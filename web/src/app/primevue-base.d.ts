/** What every directive of the package is made from; it has no types of its own. */
declare module '@primevue/core/basedirective' {
  const base: object;
  export default base;
}

/** What every component of the package is made from, as far as it is changed here. */
declare module '@primevue/core/basecomponent' {
  type Attributes = Record<string, unknown>;
  export interface PackageComponent {
    pt?: Attributes;
    $attrs: Attributes;
    $name: string;
    $primevueConfig?: { pt?: Attributes };
    _getPTDatasets: (part?: string) => Attributes | false;
  }
  const base: {
    methods: {
      ptm: (this: PackageComponent, part?: string, ...rest: unknown[]) => Attributes;
      _hook: (this: PackageComponent, name: string) => void;
    };
  };
  export default base;
}
